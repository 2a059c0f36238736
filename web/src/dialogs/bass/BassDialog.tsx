import { Checkbox } from "@mantine/core";
import { useState } from "react";
import { Choice } from "../../controls/Choice";
import { Dialog } from "../Dialog";
import { laneFact } from "../../api/facts";
import { NumberBox } from "../../controls/NumberBox";
import { makeLanes } from "../../state/actions";
import type { Op } from "../../api/gen/schema.gen";
import { clipOf, placesOf, useApp } from "../../state/store";
import { keptOf } from "../../state/tried";
import { useTrying } from "../../state/pointing";
import css from "./bass.module.css";

const notes = { root: "the roots", lowest: "the lowest notes" };
const rhythms = {
  held: "held as long as the chord",
  every: "on every n-th step",
  even: "hits spread evenly",
  lane: "a lane’s rhythm",
};
const approaches = {
  none: "none",
  below: "a scale step below it",
  above: "a scale step above it",
  fifth: "the fifth under it",
};

const close = () => useApp.getState().set({ panel: null });

/** Makes a line lane from the clip's chords. */
export function BassDialog() {
  const words = useApp((s) => s.words)!;
  const clip = useApp((s) => clipOf(keptOf(s)))!;
  const harmony = useApp((s) => s.view?.harmony);
  const others = clip.lanes.filter((l) => placesOf(l) > 0 && l.id !== harmony?.lane);
  const [of, setOf] = useState("root");
  const [octave, setOctave] = useState(2);
  const [rate, setRate] = useState("1/8");
  const [rhythm, setRhythm] = useState("every");
  const [every, setEvery] = useState(2);
  const [hits, setHits] = useState(5);
  const [from, setFrom] = useState(others[0]?.id ?? "");
  const [approach, setApproach] = useState("none");
  const [follow, setFollow] = useState(false);
  const op: Op = {
    op: "bass.make",
    clip: clip.id,
    of,
    octave,
    rate,
    rhythm,
    every,
    hits,
    from,
    approach,
    follow: follow && of === "root",
  };
  useTrying(JSON.stringify(op), [op], true);
  const made = async () => {
    if (await makeLanes([op])) close();
  };
  const allowed = words.bass.rhythms.filter((r) => r !== "lane" || others.length > 0);
  return (
    <Dialog title="Make a bass from the chords" size={430} onClose={close} main={made} label="Make the bass">
      <div className={css.form}>
        <label htmlFor="bass-of">It plays</label>
        <Choice id="bass-of" label="It plays" value={of} all={words.bass.notes} words={notes} onChange={setOf} />
        <label htmlFor="bass-octave">Octave</label>
        <NumberBox
          id="bass-octave"
          label="Octave of the bass"
          value={octave}
          low={laneFact.octave.low}
          high={laneFact.octave.high}
          onChange={setOctave}
        />
        <label htmlFor="bass-rate">Steps of</label>
        <Choice id="bass-rate" label="Length of a step" value={rate} all={laneFact.rate.choices} onChange={setRate} />
        <label htmlFor="bass-rhythm">Rhythm</label>
        <Choice id="bass-rhythm" label="Rhythm" value={rhythm} all={allowed} words={rhythms} onChange={setRhythm} />
        {rhythm === "every" && (
          <>
            <label htmlFor="bass-every">Every</label>
            <NumberBox
              id="bass-every"
              label="Every so many steps"
              value={every}
              low={1}
              high={64}
              onChange={setEvery}
            />
          </>
        )}
        {rhythm === "even" && (
          <>
            <label htmlFor="bass-hits">Hits under a chord</label>
            <NumberBox id="bass-hits" label="Hits under a chord" value={hits} low={1} high={64} onChange={setHits} />
          </>
        )}
        {rhythm === "lane" && (
          <>
            <label htmlFor="bass-from">Of the lane</label>
            <Choice
              id="bass-from"
              label="Lane to take the rhythm from"
              value={from}
              all={others.map((l) => l.id)}
              words={Object.fromEntries(others.map((l) => [l.id, l.name]))}
              onChange={setFrom}
            />
          </>
        )}
        <label htmlFor="bass-approach">Before the next root</label>
        <Choice
          id="bass-approach"
          label="Note before the next root"
          value={approach}
          all={words.bass.approaches}
          words={approaches}
          onChange={setApproach}
        />
        <span />
        <Checkbox
          size="xs"
          label="Follow the roots when the chords change"
          checked={follow && of === "root"}
          disabled={of !== "root"}
          onChange={(e) => setFollow(e.currentTarget.checked)}
        />
        <p className="quiet">It becomes an ordinary line: every note of it can be changed afterwards.</p>
      </div>
    </Dialog>
  );
}
