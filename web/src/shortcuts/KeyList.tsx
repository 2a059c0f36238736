import { Dialog } from "../dialogs/Dialog";
import { laneOf, useApp } from "../state/store";
import { listedKeys } from "./keys";
import css from "./keys.module.css";

const mouse: [string, string][] = [
  ["Click, drag", "Put notes, paint on"],
  ["Drag a pod", "Up and down: pitch; its end: gate, past the step line a tie"],
  ["Double click", "Take a note away"],
  ["Shift", "Select on the ladder; a straight line on a rail"],
  ["Alt drag", "Draw a contour: pitches follow, rhythm stays"],
  ["Wheel", "Scroll an open ladder; with Ctrl more or less time"],
];

/** The list of all keys. */
export function KeyList() {
  const lane = useApp(laneOf);
  const all = listedKeys(lane);
  const groups = [...new Set(all.map((k) => k.group))];
  return (
    <Dialog
      title={lane ? `Keys, with ${lane.name} worked on` : "Keys"}
      size="xl"
      onClose={() => useApp.getState().set({ panel: null })}
    >
      <div className={css.groups}>
        {groups.map((group) => (
          <section key={group}>
            <h3>{group}</h3>
            <dl>
              {all
                .filter((k) => k.group === group)
                .map((k) => (
                  <div key={k.shown + k.does}>
                    <dt className="mono">{k.shown}</dt>
                    <dd>{k.does}</dd>
                  </div>
                ))}
            </dl>
          </section>
        ))}
        <section>
          <h3>Mouse</h3>
          <dl>
            {mouse.map(([how, does]) => (
              <div key={how}>
                <dt>{how}</dt>
                <dd>{does}</dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
    </Dialog>
  );
}
