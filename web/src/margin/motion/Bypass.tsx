import type { Lane } from "../../api/gen/schema.gen";
import { laneFacts } from "../../api/facts";
import { setLane } from "../../state/actions";
import css from "./motion.module.css";

/** What is called how. */
const names: Readonly<Record<string, string>> = {
  odds: "luck",
  range: "range",
  chance: "chance",
  rounds: "rounds",
  groove: "groove",
  "layer-keep": "what it keeps",
};

/** What of a lane is there and is as if it were not: to hear it with and without. */
export function Bypass({ lane }: { lane: Lane }) {
  const words = laneFacts(lane.kind).bypass?.choices ?? [];
  const flip = (word: string) =>
    setLane(lane.id, {
      bypass: lane.bypass.includes(word) ? lane.bypass.filter((own) => own !== word) : [...lane.bypass, word],
    });
  return (
    <div className={css.part} role="group" aria-label="Without">
      <h3>Without</h3>
      <p>What is pressed stays as it is set, and is as if it were not there (Shift M: all of it, and back).</p>
      <div className={css.buttons}>
        {words.map((word) => (
          <button
            key={word}
            aria-pressed={lane.bypass.includes(word)}
            aria-label={`Without ${names[word] ?? word}`}
            onClick={() => flip(word)}
          >
            {names[word] ?? word}
          </button>
        ))}
      </div>
    </div>
  );
}
