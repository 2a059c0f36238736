import { useState } from "react";
import type { Key } from "../api/gen/piece.gen";
import { Dialog } from "../dialogs/Dialog";
import { facts } from "../api/facts";
import { NewText } from "../dialogs/NewText";
import { tooLong } from "../controls/TextBox";
import { ScaleChooser } from "../dialogs/key/ScaleChooser";
import { clipOf, useApp } from "../state/store";

const close = () => useApp.getState().set({ panel: null });

/** Asks for a new clip's key and name, with answers ready. */
export function NewClip() {
  const piece = useApp((s) => s.piece)!;
  const here = useApp(clipOf);
  const [key, setKey] = useState<Key>(here?.key ?? piece.key);
  const [name, setName] = useState(`Clip ${piece.clips.length + 1}`);
  const make = async () => {
    const own = JSON.stringify(key) !== JSON.stringify(piece.key);
    const before = new Set(piece.clips.map((c) => c.id));
    if (!(await useApp.getState().edit([{ op: "clip.add", name, key: own ? key : undefined }]))) return;
    const added = useApp.getState().piece?.clips.find((c) => !before.has(c.id));
    if (added) await useApp.getState().openClip(added.id);
    close();
  };
  return (
    <Dialog
      title="A new clip begins with its key"
      size={720}
      onClose={close}
      main={make}
      label="Make the clip"
      ready={name.trim() !== "" && !tooLong(name, facts.clip.name.longest)}
      more={
        <NewText
          label="Name of the new clip"
          value={name}
          longest={facts.clip.name.longest}
          onChange={setName}
          style={{ flex: 1 }}
        />
      }
    >
      <ScaleChooser value={key} onChange={setKey} />
    </Dialog>
  );
}
