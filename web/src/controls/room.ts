import { useMediaQuery } from "@mantine/hooks";

/** How much room the window gives: for everything side by side, for the sheet alone with the
 * index and the margin as drawers, or only to play and to listen. */
export type Room = "wide" | "narrow" | "phone";

/** The least widths, in pixels, of which the style sheets speak too. */
const NARROW = 900;
export const PHONE = 600;

export function useRoom(): Room {
  const under = (width: number) => `(max-width: ${width - 0.02}px)`;
  const narrow = useMediaQuery(under(NARROW), false, { getInitialValueInEffect: false });
  const phone = useMediaQuery(under(PHONE), false, { getInitialValueInEffect: false });
  return phone ? "phone" : narrow ? "narrow" : "wide";
}
