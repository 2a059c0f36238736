import { Loader } from "@mantine/core";
import { useEffect, useState } from "react";
import { api } from "../api/client";
import { Index } from "../index/Index";
import { NewClip } from "../index/NewClip";
import { KeyPicker } from "../key/KeyPicker";
import { KeyList } from "../keys/KeyList";
import { onKey } from "../keys/keys";
import { Margin } from "../margin/Margin";
import { ConflictDialog, ErrorNote } from "../notices/Notices";
import { RenderPanel } from "../render/RenderPanel";
import { Result } from "../result/Result";
import { Sheet } from "../sheet/Sheet";
import { Start } from "../start/Start";
import { message, useApp } from "../state/store";
import { TopBar } from "../transport/TopBar";
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
  useEffect(() => {
    if (!id) return;
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, [id]);

  if (!ready)
    return (
      <div className={css.centre}>
        <Loader color="ink" size="sm" /> <span>Opening the notebook</span>
      </div>
    );
  if (!id) return <Start trouble={trouble} />;
  return (
    <div className={css.page}>
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
