import { Button, Modal, TextInput } from "@mantine/core";
import { useState } from "react";
import type { Key } from "../api/gen/piece.gen";
import { clipOf, useApp } from "../state/store";
import { ScaleChooser } from "../dialogs/key/ScaleChooser";
import css from "../dialogs/key/key.module.css";

/** Asks for a new clip's key and name, with answers ready. */
export function NewClip() {
  const open = useApp((s) => s.panel === "clip");
  return (
    <Modal
      opened={open}
      onClose={() => useApp.getState().set({ panel: null })}
      title="A new clip begins with its key"
      size={720}
      closeButtonProps={{ "aria-label": "Close" }}
    >
      {open && <Form />}
    </Modal>
  );
}

function Form() {
  const piece = useApp((s) => s.piece)!;
  const here = useApp(clipOf);
  const [key, setKey] = useState<Key>(here?.key ?? piece.key);
  const [name, setName] = useState(`Clip ${piece.clips.length + 1}`);
  const make = async () => {
    const own = JSON.stringify(key) !== JSON.stringify(piece.key);
    const before = new Set(piece.clips.map((c) => c.id));
    if (await useApp.getState().edit([{ op: "clip.add", name, key: own ? key : undefined }])) {
      const added = useApp.getState().piece?.clips.find((c) => !before.has(c.id));
      if (added) await useApp.getState().openClip(added.id);
      useApp.getState().set({ panel: null });
    }
  };
  return (
    <>
      <ScaleChooser value={key} onChange={setKey} />
      <div className={css.actions}>
        <TextInput
          aria-label="Name of the new clip"
          value={name}
          maxLength={80}
          onChange={(e) => setName(e.target.value)}
          onKeyDown={(e) => e.key === "Enter" && void make()}
          style={{ flex: 1 }}
          data-autofocus
        />
        <Button onClick={() => void make()} disabled={!name.trim()}>
          Make the clip
        </Button>
      </div>
    </>
  );
}
