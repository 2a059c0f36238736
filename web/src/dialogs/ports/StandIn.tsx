import { useState } from "react";
import { CONTROL, ON } from "../../ports/port";
import { clockStandIn, sendFromStandIn, useStandIn } from "../../ports/standin";
import { NumberBox } from "../../controls/NumberBox";
import css from "./Ports.module.css";

/** The port that ships with the page: what it was sent, and keys, controllers and a clock to send from it. */
export function StandInView() {
  const { received, count, clocks, clocking, tempo } = useStandIn();
  const [key, setKey] = useState(60);
  const [controller, setController] = useState(74);
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
        <NumberBox
          label="Tempo of the clock to send"
          value={tempo}
          low={20}
          high={400}
          onChange={(now) => useStandIn.setState({ tempo: now })}
        />
        <button type="button" aria-pressed={clocking} onClick={() => clockStandIn(!clocking)}>
          {clocking ? "Stop the clock" : "Send a clock"}
        </button>
      </div>
      <p className="quiet">
        {count === 0 ? "Nothing has been sent to it yet." : `${count} messages came, ${clocks} of them clocks.`}
      </p>
      <ol className={css.received} aria-label="What the stand-in received, the newest first" tabIndex={0}>
        {received
          .slice(-60)
          .reverse()
          .map((r, i) => (
            <li key={i}>
              <span className="mono">{(r.at / 1000).toFixed(3)}</span> {r.words}
            </li>
          ))}
      </ol>
    </details>
  );
}
