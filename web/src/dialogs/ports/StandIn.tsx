import { useEffect, useRef, useState } from "react";
import { CLOCK, CONTROL, ON, PER_QUARTER, START, STOP } from "../../ports/port";
import { sendFromStandIn, useStandIn } from "../../ports/standin";
import { NumberBox } from "../../controls/NumberBox";
import css from "./Ports.module.css";

/** The port that ships with the page: what it was sent, and keys, controllers and a clock to send from it. */
export function StandInView() {
  const { received, count, clocks } = useStandIn();
  const [key, setKey] = useState(60);
  const [controller, setController] = useState(74);
  const [tempo, setTempo] = useState(120);
  const [running, setRunning] = useState(false);
  const stop = useRef<() => void>(() => {});
  useEffect(() => () => stop.current(), []);
  const clock = () => {
    if (running) {
      stop.current();
      sendFromStandIn([STOP]);
    } else {
      sendFromStandIn([START]);
      let next = performance.now();
      const timer = setInterval(() => {
        for (const now = performance.now(); next <= now; next += 60000 / tempo / PER_QUARTER)
          sendFromStandIn([CLOCK], next);
      }, 10);
      stop.current = () => clearInterval(timer);
    }
    setRunning(!running);
  };
  return (
    <details className={css.standIn}>
      <summary>The stand-in, in place of a device</summary>
      <div className={css.row}>
        Key
        <NumberBox label="Key to send" value={key} low={0} high={127} onChange={setKey} />
        <button
          type="button"
          onClick={() => {
            sendFromStandIn([ON, key, 100]);
            setTimeout(() => sendFromStandIn([ON, key, 0]), 200);
          }}
        >
          Send the key
        </button>
        Controller
        <NumberBox label="Controller to send" value={controller} low={0} high={119} onChange={setController} />
        <input
          type="range"
          min={0}
          max={127}
          defaultValue={64}
          aria-label="Value of the controller"
          onChange={(e) => sendFromStandIn([CONTROL, controller, Number(e.currentTarget.value)])}
        />
        Tempo
        <NumberBox label="Tempo of the clock to send" value={tempo} low={20} high={400} onChange={setTempo} />
        <button type="button" aria-pressed={running} onClick={clock}>
          {running ? "Stop the clock" : "Send a clock"}
        </button>
      </div>
      <p className="quiet">
        {count === 0 ? "Nothing has been sent to it yet." : `${count} messages came, ${clocks} of them clocks.`}
      </p>
      <ol className={css.received} aria-label="What the stand-in received" tabIndex={0}>
        {received.slice(-60).map((r, i) => (
          <li key={i}>
            <span className="mono">{(r.at / 1000).toFixed(3)}</span> {r.words}
          </li>
        ))}
      </ol>
    </details>
  );
}
