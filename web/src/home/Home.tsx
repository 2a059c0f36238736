import { Button } from "@mantine/core";
import { useRef, useState } from "react";
import { api } from "../api/client";
import { queries, usePieces } from "../api/queries";
import type { Key } from "../api/gen/piece.gen";
import { addressOf } from "../state/place";
import { PieceList } from "./PieceList";
import { useLocation } from "wouter";
import type { Summary } from "../api/gen/store.gen";
import { Deleted } from "../controls/Deleted";
import { facts } from "../api/facts";
import { Dialog } from "../dialogs/Dialog";
import { showFile } from "../dialogs/intake/state";
import { NewText } from "../dialogs/NewText";
import { TextBox, tooLong } from "../controls/TextBox";
import { NumberBox } from "../controls/NumberBox";
import { ScaleChooser } from "../dialogs/key/ScaleChooser";
import { message, useApp } from "../state/store";
import css from "./Home.module.css";
import { LightChoice } from "../controls/LightChoice";

/** The first page: pieces that are there, and ways to begin one. */
export function Home({ trouble }: { trouble: string }) {
  const { data: list, error: unread, refetch } = usePieces();
  const [failed, setError] = useState(trouble);
  const error = failed || (unread ? message(unread) : "");
  const [making, setMaking] = useState(false);
  const [deleted, setDeleted] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const midi = useRef<HTMLInputElement>(null);
  const take = useApp((s) => s.take);
  const [, go] = useLocation();
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
          <LightChoice className={css.light} />
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
          <Button data-main onClick={() => setMaking(true)}>
            New piece
          </Button>
          <Button variant="default" onClick={() => void attempt(async () => take(await api.openDemo()))}>
            Open the sample, “Lantern Regatta”
          </Button>
          <Button variant="default" onClick={() => file.current?.click()}>
            Open a piece file
          </Button>
          <Button variant="default" onClick={() => midi.current?.click()}>
            Bring in a MIDI file
          </Button>
          <input
            ref={midi}
            type="file"
            accept=".mid,.midi,audio/midi"
            hidden
            aria-label="MIDI file to bring in"
            onChange={(e) => {
              const chosen = e.target.files?.[0];
              e.target.value = "";
              if (chosen) showFile(chosen);
            }}
          />
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
        {list && list.length > 0 && <PieceList list={list} remove={remove} open={(id) => go(addressOf(id))} />}
        <Deleted what="pieces" fresh={deleted} attempt={attempt} onBack={refetch} />
      </div>
      {making && <NewPiece close={() => setMaking(false)} />}
    </main>
  );
}

function NewPiece({ close }: { close: () => void }) {
  const [key, setKey] = useState<Key>({ tonic: "D", scale: "dorian" });
  const [title, setTitle] = useState("Untitled");
  const [tempo, setTempo] = useState(104);
  const [meter, setMeter] = useState("4/4");
  const make = async () => useApp.getState().take(await api.create({ title, key, tempo, meter, clip: "First clip" }));
  return (
    <Dialog
      title="A new piece begins with its key"
      size={720}
      onClose={close}
      main={make}
      label="Begin"
      ready={title.trim() !== "" && !tooLong(title, facts.piece.title.longest)}
    >
      <ScaleChooser value={key} onChange={setKey} />
      <div className={css.form}>
        <label>
          Title
          <NewText label="Title" value={title} longest={facts.piece.title.longest} onChange={setTitle} />
        </label>
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
          Meter <TextBox label="Meter of the piece" className="mono" value={meter} onChange={setMeter} />
        </label>
      </div>
    </Dialog>
  );
}
