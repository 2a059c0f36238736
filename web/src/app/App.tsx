import { Button, Loader, Modal } from "@mantine/core";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import { Index } from "../index/Index";
import { Margin } from "../margin/Margin";
import { RenderPanel } from "../render/RenderPanel";
import { Result } from "../result/Result";
import { Sheet } from "../sheet/Sheet";
import { Start } from "../start/Start";
import { message, useApp } from "../state/store";
import { KeyPicker } from "./KeyPicker";
import { KeyList, onKeyEverywhere } from "./keys";
import { NewClip } from "./NewClip";
import { TopBar } from "./TopBar";
import css from "./App.module.css";

export function App() {
  const [ready, setReady] = useState(false);
  const [trouble, setTrouble] = useState("");
  const id = useApp((s) => s.id);
  const title = useApp((s) => s.piece?.title);

  useEffect(() => {
    const query = new URLSearchParams(window.location.search);
    const begin = async () => {
      try {
        useApp.getState().set({ words: await api.words() });
        const piece = query.get("piece");
        if (piece) useApp.getState().take(await api.open(piece, query.get("clip") ?? ""));
      } catch (problem) {
        setTrouble(message(problem));
      }
      setReady(true);
    };
    void begin();
  }, []);
  useEffect(() => {
    document.title = title ? `${title} – Agrimony` : "Agrimony";
  }, [title]);

  if (!ready) return <div className={css.centre}><Loader color="ink" size="sm" /> <span>Opening the notebook</span></div>;
  if (!id) return <Start trouble={trouble} />;
  return (
    <div className={css.page} onKeyDown={onKeyEverywhere}>
      <TopBar />
      <div className={css.body}>
        <Index />
        <main className={css.middle}>
          <Sheet />
          <Result />
        </main>
        <Margin />
      </div>
      <KeyPicker />
      <NewClip />
      <RenderPanel />
      <KeyList />
      <ConflictDialog />
      <ErrorNote />
    </div>
  );
}

/** Another tab was faster: neither side is lost without being asked. */
function ConflictDialog() {
  const conflict = useApp((s) => s.conflict);
  const settle = useApp((s) => s.settle);
  return (
    <Modal opened={conflict !== null} onClose={() => void settle(false)} title="This piece has moved on" withCloseButton={false} closeOnClickOutside={false}>
      <p style={{ marginTop: 0 }}>It was changed elsewhere, perhaps in another tab, since this one last saw it. Your edit has not been applied yet.</p>
      <div style={{ display: "flex", gap: 8, flexWrap: "wrap" }}>
        {conflict?.ops.length ? <Button onClick={() => void settle(true)}>Put my edit on top of it</Button> : null}
        <Button variant="default" onClick={() => void settle(false)}>Show the newer piece, drop my edit</Button>
      </div>
    </Modal>
  );
}

function ErrorNote() {
  const error = useApp((s) => s.error);
  if (!error) return null;
  return (
    <div className={css.error} role="alert">
      <span>{error} Nothing was lost.</span>
      <button onClick={() => useApp.getState().set({ error: "" })}>Close</button>
    </div>
  );
}
