import { useState } from "react";
import { api } from "../../api/client";
import type { Lane } from "../../api/gen/schema.gen";
import { useLaneStarter } from "../../api/queries";
import { laneFact } from "../../api/facts";
import { TextBox } from "../../controls/TextBox";
import css from "./motion.module.css";
import { message, useApp } from "../../state/store";

/** Which starter a lane was begun from and whether it still is as that has it: put back, save
 * over, save as. */
export function LaneStarter({ lane }: { lane: Lane }) {
  const { id, version, clip, edit } = useApp();
  const { data, refetch } = useLaneStarter(id, version, clip, lane.id);
  const [naming, setNaming] = useState(false);
  const [said, setSaid] = useState("");
  const attempt = async (work: () => Promise<unknown>, done: string) => {
    try {
      await work();
      setSaid(done);
      await refetch();
    } catch (problem) {
      setSaid(message(problem));
    }
  };
  const saveAs = (name: string) =>
    attempt(async () => {
      const { document } = await api.laneStarter(id, clip, lane.id, { name });
      await api.saveStarter(JSON.stringify(document), false);
      await edit([{ op: "lane.set", clip, lane: lane.id, patch: { starter: name } }]);
      setNaming(false);
    }, `Saved as “${name}”.`);
  const saveOver = () =>
    attempt(async () => {
      const { document } = await api.laneStarter(id, clip, lane.id, { name: lane.starter });
      await api.saveStarter(JSON.stringify(document), true);
    }, `“${lane.starter}” is as this lane now.`);
  return (
    <div className={css.part} role="group" aria-label="Starter">
      <h3>Starter</h3>
      <p data-testid="starter">
        {!data?.name && "Begun from nothing."}
        {data?.name && !data.known && `Begun from “${data.name}”, which is not here.`}
        {data?.known && !data.differs && `As “${data.name}”.`}
        {data?.known && data.differs && `Differs from “${data.name}”.`}
      </p>
      <div className={css.buttons}>
        {data?.known && data.differs && (
          <button
            onClick={() => void edit([{ op: "lane.start", clip, lane: lane.id, starter: data.was, sound: true }])}
          >
            Put back
          </button>
        )}
        {data?.own && data.differs && <button onClick={() => void saveOver()}>Save over</button>}
        {naming ? (
          <TextBox
            autoFocus
            label="Name of the new starter"
            value=""
            placeholder="its name, then Enter"
            longest={laneFact.starter.longest}
            onChange={(name) => void saveAs(name)}
            onLeave={() => setNaming(false)}
          />
        ) : (
          <button onClick={() => setNaming(true)}>Save as …</button>
        )}
      </div>
      {said && <p role="status">{said}</p>}
    </div>
  );
}
