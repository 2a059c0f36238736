import { Button, Modal, TextInput } from "@mantine/core";
import { useRef, useState } from "react";
import { api } from "../api/client";
import { queries, usePieces } from "../api/queries";
import type { Key } from "../api/gen/piece.gen";
import type { Summary } from "../api/gen/store.gen";
import { Deleted } from "../controls/Deleted";
import { facts } from "../controls/facts";
import { NumberBox } from "../controls/NumberBox";
import { ScaleChooser } from "../dialogs/key/ScaleChooser";
import { message, useApp } from "../state/store";
import css from "./Home.module.css";

/** The first page: pieces that are there, and ways to begin one. */
export function Home({ trouble }: { trouble: string }) {
  const { data: list, error: unread, refetch } = usePieces();
  const [failed, setError] = useState(trouble);
  const error = failed || (unread ? message(unread) : "");
  const [making, setMaking] = useState(false);
  const [deleted, setDeleted] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const take = useApp((s) => s.take);
  const attempt = async (work: () => Promise<void>) => {
    try {
      await work();
    } catch (problem) {
      setError(message(problem));
    }
  };
  const remove = (p: Summary) =>
    attempt(async () => {
      await api.remove(p.id);
      setDeleted(true);
      await Promise.all([refetch(), queries.invalidateQueries({ queryKey: ["deleted"] })]);
    });
  return (
    <main className={css.page}>
      <div className={css.sheet}>
        <h1>
          <img src="/mark.svg" width={40} height={40} alt="" /> Agrimony
        </h1>
        <p className={css.lead}>
          A notebook for bass lines, leads and drums. Choose a key, click a line, hear it over a beat, and take it away
          as a MIDI clip.
        </p>
        {error && (
          <p className={css.error} role="alert">
            {error}
          </p>
        )}
        <div className={css.actions}>
          <Button onClick={() => setMaking(true)}>New piece</Button>
          <Button variant="default" onClick={() => void attempt(async () => take(await api.openDemo()))}>
            Open the sample, “Lantern Regatta”
          </Button>
          <Button variant="default" onClick={() => file.current?.click()}>
            Open a piece file
          </Button>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            hidden
            aria-label="Piece file"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = "";
              if (chosen) void attempt(async () => take(await api.importDocument(await chosen.text())));
            }}
          />
        </div>
        <h2>Pieces</h2>
        {list === undefined && !error && <p className="quiet">Looking for pieces</p>}
        {list?.length === 0 && (
          <p className="quiet">None yet. A new piece asks for its key first; everything after that stays within it.</p>
        )}
        <ul className={css.list}>
          {list?.map((p) => (
            <li key={p.id}>
              <button className={css.piece} onClick={() => void attempt(async () => take(await api.open(p.id, "")))}>
                <b>{p.title}</b>
                <span className="quiet">changed {new Date(p.updated).toLocaleString()}</span>
              </button>
              <button className={css.remove} aria-label={`Delete ${p.title}`} onClick={() => void remove(p)}>
                Delete
              </button>
            </li>
          ))}
        </ul>
        <Deleted what="pieces" fresh={deleted} attempt={attempt} onBack={refetch} />
      </div>
      <Modal
        opened={making}
        onClose={() => setMaking(false)}
        title="A new piece begins with its key"
        size={720}
        closeButtonProps={{ "aria-label": "Close" }}
      >
        <NewPiece attempt={attempt} />
      </Modal>
    </main>
  );
}

function NewPiece({ attempt }: { attempt: (work: () => Promise<void>) => Promise<void> }) {
  const [key, setKey] = useState<Key>({ tonic: "D", scale: "dorian" });
  const [title, setTitle] = useState("Untitled");
  const [tempo, setTempo] = useState(104);
  const [meter, setMeter] = useState("4/4");
  const make = () =>
    attempt(async () => useApp.getState().take(await api.create({ title, key, tempo, meter, clip: "First clip" })));
  return (
    <>
      <ScaleChooser value={key} onChange={setKey} />
      <form
        className={css.form}
        onSubmit={(e) => {
          e.preventDefault();
          void make();
        }}
      >
        <TextInput
          data-autofocus
          onFocus={(e) => e.currentTarget.select()}
          label="Title"
          size="xs"
          value={title}
          maxLength={120}
          onChange={(e) => setTitle(e.target.value)}
          style={{ flex: 1 }}
        />
        <label>
          Tempo{" "}
          <NumberBox
            label="Tempo of the piece"
            value={tempo}
            low={facts.piece.tempo.low}
            high={facts.piece.tempo.high}
            onChange={setTempo}
          />
        </label>
        <label>
          Meter{" "}
          <input
            className="mono"
            aria-label="Meter of the piece"
            value={meter}
            onChange={(e) => setMeter(e.target.value)}
          />
        </label>
        <Button type="submit">Begin</Button>
      </form>
    </>
  );
}
