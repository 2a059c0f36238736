import { Checkbox } from "@mantine/core";
import { useState } from "react";
import { askForPorts } from "../../input/access";
import { follow } from "../../ports/clock";
import { allQuiet, keep, placeOf, routeOf, usePorts, usual, type Route } from "../../ports/routes";
import { STAND_IN } from "../../ports/standin";
import { Choice } from "../../controls/Choice";
import { NumberBox } from "../../controls/NumberBox";
import { sounds } from "../../lanes/kinds";
import { useOrder } from "../../order/state";
import { clipOf, useApp } from "../../state/store";
import { Dialog } from "../Dialog";
import { StandInView } from "./StandIn";
import css from "./Ports.module.css";

/** By how many ms what is sent to a port may be moved. */
const DELAY = 200;

const close = () => useApp.getState().set({ panel: null });

/** Where lanes sound: the built-in voices, ports, or both; who gets the clock, and whose is followed. */
export function Ports() {
  const clip = useApp(clipOf);
  const piece = useApp((s) => s.id);
  const view = useApp((s) => s.view);
  const { outs, ins, asked, pieces, lanes: routes, delays, clocked, follows, names } = usePorts();
  // In the running order the lanes of every clip are to be had.
  const all = useOrder((s) => (s.open ? s.view?.clips : undefined));
  const [chosen, setChosen] = useState("");
  const of = chosen || (clip?.id ?? "");
  const lanes =
    all?.find((c) => c.id === of)?.lanes.filter((l) => l.sounds) ??
    (clip?.lanes ?? []).filter(sounds).map(({ id, name }) => ({
      id,
      name,
      apart: view?.lanes.some((l) => l.id === id && l.apart),
    }));
  const nameOf = (id: string) => outs.find((o) => o.id === id)?.name ?? names[id] ?? "a port";
  const set = (where: "pieces" | "lanes", key: string, route: Route | null) => {
    const all = { ...(where === "pieces" ? pieces : routes) };
    if (route) all[key] = route;
    else delete all[key];
    keep({ [where]: all, ...(route?.port ? { names: { ...names, [route.port]: nameOf(route.port) } } : {}) });
  };
  return (
    <Dialog title="Where it sounds" size={760} onClose={close} main={close} label="Done" done>
      <div className={css.page}>
        <p className="quiet">
          Lanes sound here, on a port, or on both. It is remembered on this machine, and is no part of the piece.
        </p>
        <table className={css.routes}>
          <thead>
            <tr>
              <th>
                {all ? (
                  <span className={css.of}>
                    Lane of
                    <Choice
                      label="Lanes of which clip"
                      value={of}
                      all={all.map((c) => c.id)}
                      words={Object.fromEntries(all.map((c) => [c.id, c.name]))}
                      onChange={setChosen}
                    />
                  </span>
                ) : (
                  `Lane of ${clip?.name ?? ""}`
                )}
              </th>
              <th>Here</th>
              <th>Port</th>
              <th>Channel (0: its own)</th>
            </tr>
          </thead>
          <tbody>
            <RouteRow
              name="The whole piece"
              route={pieces[piece] ?? usual}
              own
              nameOf={nameOf}
              set={(route) => set("pieces", piece, route)}
            />
            {lanes.map((lane) => {
              const key = placeOf(piece, of, lane.id);
              return (
                <RouteRow
                  key={key}
                  name={lane.name}
                  route={routeOf(key)}
                  own={key in routes}
                  zone={lane.apart}
                  nameOf={nameOf}
                  set={(route) => set("lanes", key, route)}
                />
              );
            })}
          </tbody>
        </table>
        <h3>Ports</h3>
        <table className={css.routes}>
          <thead>
            <tr>
              <th>Port</th>
              <th>Later by, in ms</th>
              <th>Gets the clock</th>
            </tr>
          </thead>
          <tbody>
            {outs.map((port) => (
              <tr key={port.id}>
                <td>
                  {port.name} {port.standIn && <span className="quiet">(ships with Agrimony)</span>}
                </td>
                <td>
                  <NumberBox
                    label={`Delay of ${port.name}, in ms`}
                    value={delays[port.id] ?? 0}
                    low={-DELAY}
                    high={DELAY}
                    onChange={(ms) => keep({ delays: { ...delays, [port.id]: ms } })}
                  />
                </td>
                <td>
                  <Checkbox
                    size="xs"
                    aria-label={`${port.name} gets the clock`}
                    checked={clocked.includes(port.id)}
                    onChange={(e) =>
                      keep({
                        clocked: e.currentTarget.checked
                          ? [...clocked, port.id]
                          : clocked.filter((id) => id !== port.id),
                      })
                    }
                  />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <div className={css.row}>
          {!asked && (
            <button type="button" onClick={() => void askForPorts()}>
              Look for MIDI devices
            </button>
          )}
          <button type="button" onClick={allQuiet} title="Ends everything on every port">
            All quiet
          </button>
          <label htmlFor="follows">Tempo</label>
          <Choice
            id="follows"
            label="Whose clock is followed"
            value={follows || "own"}
            all={[
              "own",
              STAND_IN,
              ...ins.map((i) => i.id),
              ...(follows && follows !== STAND_IN && !ins.some((i) => i.id === follows) ? [follows] : []),
            ]}
            words={{
              own: "the piece's own",
              [STAND_IN]: "follows the stand-in",
              ...Object.fromEntries(ins.map((i) => [i.id, `follows ${i.name}`])),
            }}
            onChange={(id) => follow(id === "own" ? "" : id)}
          />
        </div>
        <StandInView />
      </div>
    </Dialog>
  );
}

interface RowProps {
  name: string;
  route: Route;
  /** Whether it is set here; else it is as the piece's. */
  own: boolean;
  /** Whether its notes have a zone of channels. */
  zone?: boolean | undefined;
  nameOf: (port: string) => string;
  set: (route: Route | null) => void;
}

function RouteRow({ name, route, own, zone, nameOf, set }: RowProps) {
  const outs = usePorts((s) => s.outs);
  const gone = route.port !== "" && !outs.some((o) => o.id === route.port);
  return (
    <tr data-own={own}>
      <td>
        {name}{" "}
        {own && name !== "The whole piece" && (
          <button type="button" className={css.plain} onClick={() => set(null)}>
            as the piece
          </button>
        )}
      </td>
      <td>
        <Checkbox
          size="xs"
          aria-label={`${name} sounds here`}
          checked={route.voice}
          onChange={(e) => set({ ...route, voice: e.currentTarget.checked })}
        />
      </td>
      <td>
        <Choice
          label={`Port of ${name}`}
          value={route.port || "none"}
          all={["none", ...outs.map((o) => o.id), ...(gone ? [route.port] : [])]}
          words={{
            none: "none",
            ...Object.fromEntries(outs.map((o) => [o.id, o.name])),
            ...(gone ? { [route.port]: `${nameOf(route.port)} (gone)` } : {}),
          }}
          onChange={(port) => set({ ...route, port: port === "none" ? "" : port })}
        />
      </td>
      <td>
        {zone ? (
          <span className="quiet" title="Its notes glide each by itself, each on a channel of its own">
            its zone
          </span>
        ) : (
          <NumberBox
            label={`Channel of ${name}; 0: its own`}
            value={route.channel}
            low={0}
            high={16}
            onChange={(channel) => set({ ...route, channel })}
          />
        )}
      </td>
    </tr>
  );
}
