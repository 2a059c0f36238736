import { Choice } from "../../controls/Choice";
import { facts } from "../../api/facts";
import { NumberField } from "../../controls/Field";
import { PitchBox } from "../../controls/PitchBox";
import { setLane } from "../../state/actions";
import { clipOf, useApp } from "../../state/store";
import type { LaneProps } from "../kind";
import { rangeOf } from "./band";
import type { ControlLane } from "./control";
import { controllers } from "./targets";

const fact = facts.lane.control;

/** What a control lane moves, on which lane, and whether it follows a lane's pitch. */
export function Daily({ lane, view }: LaneProps<ControlLane>) {
  const lanes = (useApp(clipOf)?.lanes ?? []).filter((l) => l.kind !== "control");
  const names = Object.fromEntries(lanes.map((l) => [l.id, l.name]));
  const of = ` of ${lane.name}`;
  const id = (name: string) => `${name}-${lane.id}`;
  const set = (patch: Record<string, unknown>) => setLane(lane.id, patch);
  const target = typeof lane.target === "string" ? lane.target : String(lane.target.controller);
  const known = Object.keys(controllers);
  const words = {
    wheel: "bend wheel",
    pressure: "pressure",
    ...Object.fromEntries(Object.entries(controllers).map(([n, name]) => [n, name])),
  };
  const follow = (part: Record<string, unknown>) => set({ follows: { ...lane.follows, ...part } });
  const [low, high] = rangeOf(lane);
  return (
    <>
      <label htmlFor={id("to")} title={fact.to.doc}>
        Acts on
      </label>
      <Choice
        id={id("to")}
        label={`Lane that ${lane.name} acts on`}
        value={lane.to}
        all={lanes.map((l) => l.id)}
        words={names}
        onChange={(to) => set({ to })}
      />
      <label htmlFor={id("target")} title={fact.target.doc}>
        Moves
      </label>
      <Choice
        id={id("target")}
        label={`What ${lane.name} moves`}
        value={known.includes(target) || typeof lane.target === "string" ? target : "other"}
        all={[...known, "wheel", "pressure", "other"]}
        words={{ ...words, other: "another controller" }}
        onChange={(to) =>
          to === "wheel" || to === "pressure"
            ? set({ target: to })
            : set({ target: { controller: to === "other" ? 20 : Number(to) } })
        }
      />
      {typeof lane.target !== "string" && (
        <NumberField
          id={id("controller")}
          fact={{ title: "Number", doc: "The controller's number.", low: 0, high: 119 }}
          label={`Controller number${of}`}
          value={lane.target.controller}
          onChange={(controller) => set({ target: { controller } })}
        />
      )}
      <label htmlFor={id("follows")} title={fact.follows.doc}>
        Follows
      </label>
      <Choice
        id={id("follows")}
        label={`Lane whose pitch ${lane.name} follows`}
        value={lane.follows?.lane ?? ""}
        all={["", ...lanes.map((l) => l.id)]}
        words={{ "": "its steps", ...names }}
        onChange={(to) => set({ follows: to ? { ...rangeSeen(lane), lane: to } : null })}
      />
      {lane.follows && (
        <>
          <span>Low … high</span>
          <PitchBox
            label={`Low and high pitch${of}`}
            low={lane.follows.low}
            high={lane.follows.high}
            onChange={follow}
          />
          <label htmlFor={id("sides")}>Sides</label>
          <Choice
            id={id("sides")}
            label={`Sides${of}`}
            value={lane.follows.sides}
            all={fact.follows.fields.sides.choices}
            words={{ up: "low to high", both: "middle to ends" }}
            onChange={(sides) => follow({ sides })}
          />
          <NumberField
            id={id("from")}
            fact={{ ...fact.follows.fields.from, low, high }}
            label={`From value${of}`}
            value={lane.follows.from}
            onChange={(from) => follow({ from })}
          />
          <NumberField
            id={id("upto")}
            fact={{ ...fact.follows.fields.to, low, high }}
            label={`To value${of}`}
            value={lane.follows.to}
            onChange={(to) => follow({ to })}
          />
          <span>Reaches</span>
          <span className="mono" data-testid="reached">
            {view.reach ? `${view.reach.least}..${view.reach.most}` : "nothing yet"}
          </span>
        </>
      )}
    </>
  );
}

/** The range of values that a lane which begins to follow starts with. */
function rangeSeen(lane: ControlLane): Record<string, unknown> {
  if (lane.follows) return { ...lane.follows };
  const [from, to] = rangeOf(lane);
  return { from, to };
}
