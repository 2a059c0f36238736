import { createTheme, type MantineColorsTuple } from "@mantine/core";

const ink: MantineColorsTuple = [
  "#f1f4f0",
  "#dfe5de",
  "#bfcabf",
  "#9dae9f",
  "#7f9483",
  "#66806d",
  "#4a6453",
  "#33493c",
  "#1b2a22",
  "#111c16",
];

/** Greys of paper, so that no part of the component library looks cold. */
const gray: MantineColorsTuple = [
  "#f8f5ec",
  "#f1ecdf",
  "#e7e0cf",
  "#d5ccb7",
  "#c4baa3",
  "#a99f88",
  "#8f8873",
  "#6c6755",
  "#47534a",
  "#1b2a22",
];

/** The same by lamplight, the lightest first. */
const dark: MantineColorsTuple = [
  "#efe6d2",
  "#dcd2bc",
  "#c3b8a1",
  "#a09579",
  "#6b6350",
  "#4a4436",
  "#2a251c",
  "#211c15",
  "#171510",
  "#12100c",
];

/** The dye hues that lanes take by position. */
export const dyes = ["madder", "woad", "walnut", "lichen", "heather", "slate"] as const;

export function dye(index: number): string {
  return `var(--${dyes[index % dyes.length]})`;
}

export const theme = createTheme({
  colors: { ink, gray, dark },
  primaryColor: "ink",
  primaryShade: { light: 8, dark: 1 },
  autoContrast: true,
  white: "#fdfbf5",
  black: "#1b2a22",
  fontFamily: "var(--sans)",
  fontFamilyMonospace: "var(--mono)",
  defaultRadius: 3,
  fontSizes: { xs: "12px", sm: "13px", md: "14px", lg: "16px", xl: "19px" },
  components: {
    Checkbox: { defaultProps: { color: "var(--ink)", iconColor: "var(--paper)" } },
    Tooltip: { defaultProps: { openDelay: 500, withArrow: true, color: "var(--ink)" } },
    Modal: {
      defaultProps: { centered: true, overlayProps: { backgroundOpacity: 0.25 }, transitionProps: { duration: 80 } },
      styles: { content: { border: "1px solid var(--rule-strong)" } },
    },
    Popover: { defaultProps: { shadow: "sm", transitionProps: { duration: 60 } } },
    Menu: { defaultProps: { shadow: "sm", transitionProps: { duration: 60 } } },
  },
});

const tokens = new Map<string, string>();

/** Lets tokens be read anew, as they are others now. */
export const forgetTokens = (): void => tokens.clear();

/** Reads a token for drawing on canvas. Kept, because drawing asks often. */
export function token(name: string): string {
  let value = tokens.get(name);
  if (value === undefined) {
    value = getComputedStyle(document.documentElement).getPropertyValue(`--${name}`).trim();
    tokens.set(name, value);
  }
  return value;
}
