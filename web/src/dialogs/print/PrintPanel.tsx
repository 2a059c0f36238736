import { useState } from "react";
import { Choice } from "../../controls/Choice";
import { NumberBox } from "../../controls/NumberBox";
import { many } from "../../words";
import { sounds } from "../../lanes/kinds";
import { makeLanes } from "../../state/actions";
import { clipOf, useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import css from "../intake/intake.module.css";

/** Prints lanes as free notes: what luck decided, walks and bends written out. */
export function PrintPanel() {
  const { clip, lane } = useApp.getState();
  const lanes = (useApp(clipOf)?.lanes ?? []).filter(sounds);
  const [chosen, setChosen] = useState<readonly string[]>(lanes.filter((l) => l.id === lane).map((l) => l.id));
  const [length, setLength] = useState("cycle");
  const [bars, setBars] = useState(4);
  const [groove, setGroove] = useState(false);
  const [each, setEach] = useState(false);
  const most = useApp((s) => s.words?.maxBars) ?? 1024;
  const close = () => useApp.getState().set({ panel: null });
  const print = async () => {
    const ops = [
      { op: "lane.print" as const, clip, lanes: [...chosen], groove, each, ...(length === "bars" ? { bars } : {}) },
    ];
    if (await makeLanes(ops)) close();
  };
  return (
    <Dialog title="Print as free notes" size={480} onClose={close} main={print} label="Print" ready={chosen.length > 0}>
      <p className={css.facts}>
        What the lanes sound becomes plain notes that you go on with by hand: chance is decided, walks and bends are
        written out. The lanes are muted, not changed.
      </p>
      <fieldset className={css.lanes}>
        <legend>Lanes</legend>
        {lanes.map((l) => (
          <label key={l.id}>
            <input
              type="checkbox"
              checked={chosen.includes(l.id)}
              onChange={(e) => setChosen(e.target.checked ? [...chosen, l.id] : chosen.filter((id) => id !== l.id))}
            />{" "}
            {l.name}
          </label>
        ))}
      </fieldset>
      <div className={css.row}>
        <label htmlFor="print-length">For</label>
        <Choice
          id="print-length"
          label="How long"
          value={length}
          all={["cycle", "bars"]}
          words={{ cycle: "their full cycle, 64 bars at most", bars: "so many bars" }}
          onChange={setLength}
        />
        {length === "bars" && <NumberBox label="Bars to print" value={bars} low={1} high={most} onChange={setBars} />}
      </div>
      <div className={css.row}>
        <label>
          <input type="checkbox" checked={groove} onChange={(e) => setGroove(e.target.checked)} /> with the groove in it
        </label>
        <label>
          <input type="checkbox" checked={each} onChange={(e) => setEach(e.target.checked)} /> a lane for each
        </label>
      </div>
      <p className="quiet">{chosen.length ? `${many(chosen.length, "lane")} chosen.` : "Choose a lane."}</p>
    </Dialog>
  );
}
