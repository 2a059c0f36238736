import { useLayoutEffect, useMemo, useRef } from "react";
import type { Came } from "../../api/gen/sketch.gen";
import type { Proposal } from "../../api/gen/server.gen";
import type { Clip as ClipView, Lane as LaneView, Note } from "../../api/gen/view.gen";
import { drawNames, GUTTER } from "../../canvas/drawing/ground";
import { many } from "../../words";
import type { Lane } from "../../api/gen/schema.gen";
import { kindOf } from "../../lanes/kinds";
import { dyes, token } from "../../theme";
import css from "./sketch.module.css";
import { useLight } from "../../light";

const SIZE = { width: 372, height: 96 };
const nothing: ReadonlySet<number> = new Set();

interface Props {
  lane: Lane;
  view: ClipView;
  index: number;
  proposal: Proposal;
}

/** A proposal on the lane's own axis, over its chords, as the lane would look; what differs from what
 * stands there has a line under it. */
export function Drawing({ lane, view, index, proposal }: Props) {
  const light = useLight();
  const canvas = useRef<HTMLCanvasElement>(null);
  const own = view.lanes[index];
  const shown = useMemo(() => own && { ...own, ...proposal.sound }, [own, proposal]);
  useLayoutEffect(() => {
    const el = canvas.current;
    const pen = el?.getContext("2d");
    if (!el || !pen || !shown) return;
    const ratio = window.devicePixelRatio || 1;
    el.width = SIZE.width * ratio;
    el.height = SIZE.height * ratio;
    const kind = kindOf(lane);
    const doc = (proposal.steps.length ? { ...lane, steps: proposal.steps } : lane) as Lane;
    const room = { open: false, height: SIZE.height, lowest: null };
    const band = { ...kind.band(doc, shown, room) };
    const hue = token(dyes[index % dyes.length]!);
    const picture = {
      lane: doc,
      view: shown,
      band: {
        ...band,
        height: SIZE.height,
        ladderBottom: SIZE.height - 6,
        rowHeight: (SIZE.height - 10) / Math.max(band.rows.length, 1),
      },
      hue,
      harmony: view.harmony,
      zoom: (SIZE.width - GUTTER) / Math.max(proposal.ticks, 1),
      scroll: 0,
      width: SIZE.width - GUTTER,
      ticks: proposal.ticks,
      barTicks: view.barTicks,
      beatTicks: view.beatTicks,
      stems: [],
      selection: nothing,
      cursor: -1,
      ghosts: [],
      hover: -1,
      draft: null,
      stroke: null,
      edge: null,
      pods: null,
    };
    void Promise.resolve(kind.ready?.()).then(() => {
      kind.draw(pen, picture);
      drawNames(pen, picture);
      pen.setTransform(ratio, 0, 0, ratio, 0, 0);
      pen.fillStyle = token("ink");
      for (const at of changed(own, shown))
        pen.fillRect(GUTTER + at * picture.zoom, SIZE.height - 3, Math.max(own!.stepTicks * picture.zoom - 1, 2), 2);
    });
  }, [lane, view, index, proposal, shown, own, light]);
  return <canvas ref={canvas} style={SIZE} aria-hidden />;
}

/** Where the notes of two versions of a lane are not the same. */
function changed(was: LaneView | undefined, now: LaneView): number[] {
  const key = (n: Note) => `${n.at} ${n.pitch} ${n.length}`;
  const before = new Set(was?.notes.map(key));
  const after = new Set(now.notes.map(key));
  const places = [
    ...now.notes.filter((n) => !before.has(key(n))),
    ...(was?.notes.filter((n) => !after.has(key(n))) ?? []),
  ];
  const step = Math.max(now.stepTicks, 1);
  return [...new Set(places.map((n) => Math.floor(n.at / step) * step))];
}

/** What the dials of a sketch came to, and how much differs. */
export function Caption({ dials, differs, what }: { dials: Came | null; differs: number; what: string }) {
  const said = dials
    ? [
        `full ${dials.full}`,
        `leaps ${dials.leaps}`,
        `anchor ${dials.anchor}`,
        ...(dials.long ? [`long ${dials.long}`] : []),
        ...(dials.glides ? [`glides ${dials.glides}`] : []),
        ...(dials.contour === "free" ? [] : [dials.contour]),
        ...(dials.form ? [dials.form] : []),
      ]
    : [];
  return (
    <span className={css.caption}>
      <span className="mono">{said.join(" · ")}</span>
      <span>{differs ? `${many(differs, what)} differ${differs === 1 ? "s" : ""}` : "as it stands"}</span>
    </span>
  );
}
