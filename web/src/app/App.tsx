import { lazy, Suspense, useEffect } from "react";
import { playFrom, stopPlaying } from "../state/player";
import { ClipList } from "../clips/ClipList";
import { watchHands } from "../controls/hands";
import { later } from "../controls/later";
import { watchDrops } from "../dialogs/intake/state";
import { useEnter } from "../input/state";
import { Margin } from "../margin/Margin";
import { ErrorNote } from "../notices/Notices";
import { Result } from "../result/Result";
import { Sheet } from "../sheet/Sheet";
import { releaseKeys } from "../order/held";
import { orderKeyUp } from "../order/keys";
import { onKey } from "../shortcuts/keys";
import { useOrder } from "../order/state";
import { useSheet } from "../state/sheet";
import { watchFingers } from "../controls/fingers";
import { askForLayout } from "../controls/pressed";
import { watchWheels } from "../controls/wheels";
import { useApp } from "../state/store";
import { TopBar } from "../transport/TopBar";
import { instrumentOf, newestOf } from "./heard";
import { Panels } from "./Panels";
import { usePlace } from "../state/place";
import { useRoom } from "../controls/room";
import css from "./App.module.css";

const Keyboard = later(() => import("../input/Keyboard").then((m) => m.Keyboard), 84);
const OrderView = lazy(() => import("../order/OrderView"));
const Home = lazy(() => import("../home/Home").then((m) => ({ default: m.Home })));

playFrom({ newest: newestOf(useApp.getState), instrumentOf });

export function App() {
  const { ready, trouble } = usePlace();
  const id = useApp((s) => s.id);
  const title = useApp((s) => s.piece?.title);

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
    const undrop = watchDrops();
    const unfinger = watchFingers();
    const unwheel = watchWheels();
    // The signs of clips in the running order are those of this keyboard.
    void askForLayout(() => useOrder.setState({}));
    window.addEventListener("keydown", onKey);
    window.addEventListener("keyup", orderKeyUp);
    window.addEventListener("blur", releaseKeys);
    return () => {
      window.removeEventListener("keyup", orderKeyUp);
      window.removeEventListener("blur", releaseKeys);
      unwheel();
      stop();
      undrop();
      unfinger();
      window.removeEventListener("keydown", onKey);
    };
  }, []);

  const opening = (
    <div className={css.centre} role="status">
      Opening the notebook
    </div>
  );
  if (!ready) return opening;
  return (
    <>
      {id ? (
        <Notebook />
      ) : (
        <Suspense fallback={opening}>
          <Home trouble={trouble} />
        </Suspense>
      )}
      <Panels />
      <ErrorNote />
    </>
  );
}

/** An open piece. */
function Notebook() {
  const entering = useEnter((s) => s.open);
  const drawer = useApp((s) => s.drawer);
  const room = useRoom();
  const reading = room === "phone";
  const ordering = useOrder((s) => s.open) && !reading;
  useEffect(() => stopPlaying, []);
  useEffect(() => useSheet.getState().set({ reading }), [reading]);
  useEffect(() => useApp.getState().set({ drawer: null }), [room]);
  return (
    <div className={css.page} data-room={room} data-drawer={drawer}>
      <TopBar room={room} />
      <div className={css.body}>
        {!ordering && (
          <div className={css.index}>
            <ClipList />
          </div>
        )}
        {ordering ? (
          <main className={css.middle}>
            <Suspense fallback={null}>
              <OrderView />
            </Suspense>
          </main>
        ) : (
          <>
            <main className={css.middle}>
              <Sheet />
              {entering && !reading && <Keyboard />}
              <Result />
            </main>
            <div className={css.margin}>
              <Margin />
            </div>
          </>
        )}
      </div>
    </div>
  );
}
