import { useEffect, useRef, useState } from "react";
import { useLocation, useRoute } from "wouter";
import { api } from "../api/client";
import { message, useApp } from "./store";

/** The address of a piece, or of a clip of it. */
export const addressOf = (piece: string, clip = ""): string =>
  ["/piece", piece, clip].filter(Boolean).map(encodeURI).join("/");

/** How links looked before: with the piece and the clip behind the question mark. */
function oldLink(): string | null {
  const query = new URLSearchParams(window.location.search);
  const piece = query.get("piece");
  return piece && addressOf(piece, query.get("clip") ?? "");
}

/** Keeps the address and what is open together, both ways: an address opens its clip, and a clip
 * that is opened gets its address, so that Back leads to where one was. */
export function usePlace(): { ready: boolean; trouble: string } {
  const [, go] = useLocation();
  const [, place] = useRoute("/piece/:piece/:clip?");
  const piece = place?.piece ?? "";
  const clip = place?.clip ?? "";
  const [ready, setReady] = useState(false);
  const [trouble, setTrouble] = useState("");
  /** The address that was given to what is open: as it comes back it leads nowhere, since by then one may be on the way
   * to another clip. */
  const given = useRef("");

  useEffect(() => {
    const lead = async () => {
      const old = piece ? null : oldLink();
      if (old) {
        go(old, { replace: true });
        return;
      }
      try {
        if (!useApp.getState().words) useApp.getState().set({ words: await api.words() });
        const address = addressOf(piece, clip);
        const own = given.current === address;
        const stale = !own && window.location.pathname === given.current; // the one that was given is on its way
        if (own) given.current = "";
        if (!own && !stale) await useApp.getState().goToPlace(piece, clip);
        const now = useApp.getState();
        if (now.id && (now.id !== piece || now.clip !== clip)) go(addressOf(now.id, now.clip), { replace: true });
        if (piece) setTrouble("");
      } catch (problem) {
        setTrouble(message(problem));
        if (!useApp.getState().id) go("/", { replace: true });
      }
      setReady(true);
    };
    void lead();
  }, [piece, clip, go]);

  useEffect(
    () =>
      useApp.subscribe((now, before) => {
        if (!now.id || (now.id === before.id && now.clip === before.clip)) return;
        const [was, path] = [window.location.pathname, addressOf(now.id, now.clip)];
        if (was === path) return;
        // What an edit shows instead of a clip that it took away is no place that one went to.
        const went = was !== addressOf(now.id) && (now.id !== before.id || now.version === before.version);
        given.current = path;
        go(path, { replace: !went });
      }),
    [go],
  );
  return { ready, trouble };
}
