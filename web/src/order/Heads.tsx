import { useEffect, useState } from "react";
import { orderPosition, usePlaying } from "../state/player";
import { Popup } from "../controls/Popup";
import { many } from "../words";
import { dye } from "../theme";
import { ROW, RULER } from "./draw";
import { alone, keyOf } from "./keys";
import { at, mute } from "./live";
import { heldClips, turnHeld, useHeld } from "./held";
import { forget, taughtTo, teach, useTaught, valuesOf } from "./midi";
import { perform, turnClip, useOrder } from "./state";
import css from "./order.module.css";

/** A clip's key, name, length, lanes. */
export function Heads({ top }: { top: number }) {
  const view = useOrder((s) => s.view)!;
  const { live, follow, set } = useOrder();
  const playing = usePlaying();
  const [, look] = useState(0);
  useEffect(() => {
    if (!playing || !live) return;
    const timer = window.setInterval(() => look((n) => n + 1), 120);
    return () => window.clearInterval(timer);
  }, [playing, live]);
  const tick = live ? orderPosition().tick : -1;
  const bars = (length: number) => (length ? many(Math.round((length / view.barTicks) * 100) / 100, "bar") : "no end");
  return (
    <div className={css.heads}>
      <div className={css.corner} style={{ height: RULER }}>
        {many(view.clips.length, "clip")}
      </div>
      <div className={css.rows}>
        <ul style={{ transform: `translateY(${-top}px)` }}>
          {view.clips.map((c, i) => {
            const sounding = live ? at(live, c.id, tick) : undefined;
            return (
              <li key={c.id} style={{ height: ROW, borderLeftColor: dye(i) }} data-sounds={!!sounding}>
                <kbd>{keyOf(i)}</kbd>
                <button
                  type="button"
                  className={css.name}
                  aria-pressed={!!sounding}
                  title={`${sounding ? "Take it out" : "Bring it in"} at the boundary; Shift: at once; Alt: only this one`}
                  onClick={(e) => (e.altKey ? alone(c.id) : turnClip(c.id, e.shiftKey))}
                >
                  {c.name}
                </button>
                <span className={css.length}>{c.silent ? "no notes" : bars(c.length)}</span>
                <button
                  type="button"
                  className={css.follow}
                  aria-pressed={follow === c.id}
                  aria-label={`${c.name} follows the keyboard`}
                  title="Keys move it along its scale"
                  onClick={() => set({ follow: follow === c.id ? "" : c.id })}
                >
                  ♩
                </button>
                <Popup
                  button={
                    <button type="button" className={css.follow} aria-label={`Lanes of ${c.name}`} title="Mute lanes">
                      ▾
                    </button>
                  }
                  position="right-start"
                >
                  {() => (
                    <div className={css.lanes}>
                      {c.lanes.map((l) => {
                        const muted = sounding?.mute?.includes(l.id) ?? false;
                        return (
                          <label key={l.id}>
                            <input
                              type="checkbox"
                              checked={!muted}
                              disabled={!sounding}
                              onChange={() => void perform(c.id, (all, t) => mute(all, c.id, l.id, t))}
                            />
                            {l.name}
                          </label>
                        );
                      })}
                      {!sounding && (
                        <p className="quiet">While it plays, its lanes are muted here from the next boundary on.</p>
                      )}
                      <button type="button" onClick={() => alone(c.id)}>
                        Only this one
                      </button>
                      <Teach clip={c.id} />
                    </div>
                  )}
                </Popup>
              </li>
            );
          })}
        </ul>
      </div>
    </div>
  );
}

/** What of a MIDI device stands for a clip: a key, a controller or a program, or some of a controller's values; and whether
 * the clip runs while that is held. */
function Teach({ clip }: { clip: string }) {
  const { teaching, byValue, clips, values } = useTaught();
  const [known, chosen] = [taughtTo(clips, clip), valuesOf(values, clip)];
  useHeld();
  const held = heldClips().includes(clip);
  return (
    <>
      <button type="button" aria-pressed={teaching === clip && !byValue} onClick={() => void teach(clip)}>
        {teaching === clip && !byValue ? "Press a key or a pad" : "Teach it a MIDI key"}
      </button>
      <button type="button" aria-pressed={teaching === clip && byValue} onClick={() => void teach(clip, true)}>
        {teaching === clip && byValue ? "Move a controller" : "Teach it a controller’s value"}
      </button>
      {(known || chosen) && <span className="quiet">MIDI: {[known, chosen].filter(Boolean).join(", ")}</span>}
      {(known || chosen) && (
        <button type="button" onClick={() => forget(clip)}>
          Forget what was taught
        </button>
      )}
      <label title="It comes in with the press and goes with the release, each at the next boundary">
        <input type="checkbox" checked={held} onChange={() => turnHeld(clip)} />
        Runs while its key is held
      </label>
    </>
  );
}
