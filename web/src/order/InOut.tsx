import { useState } from "react";
import { orderPosition, usePlaying } from "../state/player";
import { useFrames } from "../state/frames";
import { at } from "./live";
import { turnClip, useOrder } from "./state";

/** The clips that sound in the running order now; null: that does not play. */
export function useSounding(): readonly string[] | null {
  const live = useOrder((s) => s.live !== null);
  const playing = usePlaying(); // until the sound has started nothing does
  const [sounding, setSounding] = useState<readonly string[]>([]);
  useFrames(() => {
    const { live: now } = useOrder.getState();
    if (!now) return;
    const { tick } = orderPosition();
    const next = [...new Set(now.map((e) => e.clip))].filter((clip) => at(now, clip, tick));
    if (next.join() !== sounding.join()) setSounding(next);
  });
  return live && playing ? sounding : null;
}

/** Brings a clip into the running order while that plays, or takes it out. */
export function InOut({
  clip,
  name,
  sounds,
  className,
}: {
  clip: string;
  name: string;
  sounds: boolean;
  className?: string;
}) {
  return (
    <button
      type="button"
      className={className}
      aria-pressed={sounds}
      title="At the next boundary; Shift: at once. Alt and a clip's key in the order does the same"
      onClick={(e) => turnClip(clip, e.shiftKey)}
    >
      {sounds ? `Take ${name} out` : `Bring ${name} in`}
    </button>
  );
}
