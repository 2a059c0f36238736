import { lazy, Suspense, useEffect, useState } from "react";
import { api } from "../api/client";
import { playFrom } from "../audio/player";
import { watchHands } from "../controls/hands";
import { later } from "../controls/later";
import { useEnter } from "../input/state";
import { ClipList } from "../clips/ClipList";
import { onKey } from "../shortcuts/keys";
import { Margin } from "../margin/Margin";
import { ErrorNote } from "../notices/Notices";
import { Result } from "../result/Result";
import { Sheet } from "../sheet/Sheet";
import { message, useApp } from "../state/store";
import { TopBar } from "../transport/TopBar";
import { instrumentOf, newestOf } from "./heard";
import { Panels } from "./Panels";
import css from "./App.module.css";

const Keyboard = later(() => import("../input/Keyboard").then((m) => m.Keyboard), 84);
const Home = lazy(() => import("../home/Home").then((m) => ({ default: m.Home })));

playFrom({ newest: newestOf(useApp.getState), instrumentOf });

export function App() {
  const [ready, setReady] = useState(false);
  const [trouble, setTrouble] = useState("");
  const id = useApp((s) => s.id);
  const entering = useEnter((s) => s.open);
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
  const unsaved = useApp((s) => s.unsaved !== null);
  useEffect(() => {
    if (!unsaved) return;
    const ask = (e: BeforeUnloadEvent) => e.preventDefault();
    window.addEventListener("beforeunload", ask);
    return () => window.removeEventListener("beforeunload", ask);
  }, [unsaved]);
  useEffect(() => {
    const stop = watchHands();
    window.addEventListener("keydown", onKey);
    return () => {
      stop();
      window.removeEventListener("keydown", onKey);
    };
  }, []);

  const opening = (
    <div className={css.centre} role="status">
      Opening the notebook
    </div>
  );
  if (!ready) return opening;
  if (!id)
    return (
      <Suspense fallback={opening}>
        <Home trouble={trouble} />
        <Panels />
      </Suspense>
    );
  return (
    <div className={css.page}>
      <TopBar />
      <div className={css.body}>
        <ClipList />
        <main className={css.middle}>
          <Sheet />
          {entering && <Keyboard />}
          <Result />
        </main>
        <Margin />
      </div>
      <Panels />
      <ErrorNote />
    </div>
  );
}
