import { audition } from "../../state/player";
import type { Op } from "../../api/gen/schema.gen";
import { addLanes, here, onChosen, setLane, type Chosen } from "../../state/actions";
import { laneIn, laneOf, laneViewOf, placesOf, useApp } from "../../state/store";
import { withCursor } from "../steps/keys";
import type { ChordsLane } from "./chords";
import { useChords } from "./state";

const app = useApp.getState;

/** The step that a chord is placed at. */
const placeHere = (): number => {
  const { cursor, selection } = app();
  return selection.length === 1 ? selection[0]! : cursor;
};

const atCursor = (): Chosen => ({ ...here(), steps: [placeHere() + 1] });

/** Places a chord at the cursor, lets it be heard, and walks on to the next step. */
function placeAt(op: Op, heard: boolean): void {
  const { edit } = app();
  const { clip, lane } = here();
  const own = laneOf(app());
  if (!own) return;
  const at = placeHere();
  void edit([op]).then((made) => {
    const [there, view] = [laneIn(app(), clip, lane), laneViewOf(app())];
    if (heard && made && there && view?.id === lane) audition(there, view.pitches[at] ?? []);
  });
  walkOn();
}

/** Goes on to the step after the one that a chord was placed at. */
export function walkOn(): void {
  const own = laneOf(app());
  const count = own ? placesOf(own) : 0;
  const next = Math.min(placeHere() + 1, count - 1);
  if (count > 1) app().select([next], next);
}

/** Puts the chord on a degree of the key, of the kind that is chosen, at the cursor. */
export const stackOp = (degree: number): Op => ({
  op: "chords.stack",
  ...atCursor(),
  degree,
  kind: useChords.getState().kind,
});

export const placeDegree = (degree: number, heard = true): void => placeAt(stackOp(degree), heard);

/** Takes a chord of a palette to the cursor. */
export const takeOp = (fromClip: string, fromLane: string, place: number): Op => ({
  op: "chords.take",
  ...atCursor(),
  fromClip,
  fromLane,
  place,
});

const only = () => useChords.getState().only;

export const widen = (by: number): void =>
  withCursor(() => onChosen((on) => ({ op: "chords.widen", ...on, by, only: only() })));

export const invert = (by: number): void => withCursor(() => onChosen((on) => ({ op: "chords.invert", ...on, by })));

/** Opens the chords that are selected, or closes them where they are open. */
export function openOrClose(): void {
  withCursor(() => {
    const { selection, edit } = app();
    const { clip, lane } = here();
    void edit((now) => {
      const [own, view] = [laneIn(now, clip, lane), laneViewOf(now)];
      if (own?.kind !== "chords" || !view?.chart) return [];
      const steps = selection.filter((n) => n < own.steps.length);
      const entries = steps.map((n) => view.chart!.palette[own.steps[n]!.chord - 1]);
      const open = entries.some((e) => e && !e.open);
      return [{ op: "chords.open", clip, lane, steps: steps.map((n) => n + 1), open, only: only() }];
    });
  });
}

/** What a lane of chords needs set for its chords to glide: each note by itself. null: nothing. */
export const gliding = (lane: ChordsLane) => (lane.glide ? null : { glide: { mode: "mpe" } });

/** Makes the chord at the cursor last a step more or less. */
export function last(by: number): void {
  withCursor(() => {
    const { cursor, edit } = app();
    const { clip, lane } = here();
    void edit((now) => {
      const [own, view] = [laneIn(now, clip, lane), laneViewOf(now)];
      const mark = view?.chart?.marks.find((m) => m.step <= cursor && cursor < m.step + m.held);
      if (!own || !mark) return [];
      const steps = mark.held + by;
      if (steps < 1 || mark.step + steps > placesOf(own)) return [];
      return [{ op: "chords.hold", clip, lane, step: mark.step + 1, steps }];
    });
  });
}

/** Lets the voices move as little as they can, or lie as they are written. */
export function turnVoicing(): void {
  const { clip, lane } = here();
  void app().edit((now) => {
    const own = laneIn(now, clip, lane);
    if (own?.kind !== "chords") return [];
    const mode = own.voicing.mode === "smooth" ? "written" : "smooth";
    return [{ op: "lane.set", clip, lane, patch: { voicing: { mode } } }];
  });
}

export const setVoicing = (lane: string, part: Record<string, unknown>): void => setLane(lane, { voicing: part });

/** Goes to the chord line of the lane that is worked on. */
export function goToProgression(): void {
  useChords.getState().set({ line: app().lane });
}

/** Adds a chords lane of four bars, and goes to its chord line. */
export async function addChords(): Promise<void> {
  await addLanes([{ kind: "chords", name: "Chords", patch: { rate: "1bar", steps: [{}, {}, {}, {}] } }]);
  goToProgression();
}
