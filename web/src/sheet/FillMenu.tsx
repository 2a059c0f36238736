import { later } from "../controls/later";
import { Popup } from "../controls/Popup";
import type { LaneProps } from "../lanes/kind";
import css from "../lanes/steps/steps.module.css";

const Fills = later(() => import("./Fills").then((m) => m.Fills), 320);

export function FillMenu({ lane, view, className }: LaneProps & { className?: string }) {
  const button = (
    <button className={className} aria-label={`Fill ${lane.name}`}>
      Fill ▾
    </button>
  );
  return (
    <Popup button={button} position="bottom-start" trapFocus width={304} className={css.box}>
      {() => <Fills lane={lane} view={view} />}
    </Popup>
  );
}
