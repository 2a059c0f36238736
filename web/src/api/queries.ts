import { keepPreviousData, QueryClient, useQuery } from "@tanstack/react-query";
import { api, type FileOrder } from "./client";
import type { SetKey } from "./gen/op.gen";
import type { Thumb } from "./gen/view.gen";

/** Answers to questions that change nothing. Each is kept under what it was asked
 * of, so that a late answer never stands for a newer question. */
export const queries = new QueryClient({
  defaultOptions: {
    queries: {
      retry: false,
      refetchOnWindowFocus: false,
      refetchOnReconnect: false,
      gcTime: 60_000,
      staleTime: Number.POSITIVE_INFINITY,
    },
  },
});

/** The notes and chords of a key: "F# dorian". */
export const useKey = (name: string) =>
  useQuery({ queryKey: ["key", name], queryFn: () => api.key(name), placeholderData: keepPreviousData });

/** The clips in miniature. They come with the edits that change them. */
export const useThumbs = (piece: string) => useQuery({ queryKey: ["thumbs", piece], queryFn: () => api.thumbs(piece) });

/** Puts the picture of a clip in the place of the one that is kept; others reports whether those of other clips may
 * have changed, too. */
export function keepThumb(piece: string, thumb: Thumb | null | undefined, others: boolean): void {
  const queryKey = ["thumbs", piece];
  if (others || queries.isFetching({ queryKey })) void queries.invalidateQueries({ queryKey });
  else if (thumb)
    queries.setQueryData<Thumb[]>(queryKey, (all) => all?.map((own) => (own.id === thumb.id ? thumb : own)));
}

/** The running order, as the piece is at a version. */
export const useOrderView = (piece: string, version: number) =>
  useQuery({
    queryKey: ["order", piece, version],
    queryFn: () => api.order(piece),
    placeholderData: keepPreviousData,
  });

/** What a file of the running order will hold. */
export const useOrderSummary = (piece: string, version: number, query: string) =>
  useQuery({
    queryKey: ["order summary", piece, version, query],
    queryFn: () => api.orderSummary(piece, query),
    placeholderData: keepPreviousData,
  });

/** Why a note is there; null asks nothing. */
export const useWhy = (piece: string, version: number, clip: string, target: { lane: string; note: number } | null) =>
  useQuery({
    queryKey: ["why", piece, version, clip, target],
    queryFn: () => api.why(piece, clip, target!.lane, target!.note),
    enabled: target !== null,
    placeholderData: target ? keepPreviousData : undefined,
  });

/** A written progression, word by word; empty asks nothing. */
export const useProgression = (piece: string, version: number, clip: string, text: string) =>
  useQuery({
    queryKey: ["progression", piece, version, clip, text],
    queryFn: () => api.progression(piece, clip, text),
    enabled: text !== "",
    placeholderData: keepPreviousData,
  });

/** The chords for a step (from 1) of a chords lane. */
export const useBoard = (piece: string, version: number, clip: string, lane: string, step: number) =>
  useQuery({
    queryKey: ["board", piece, version, clip, lane, step],
    queryFn: () => api.board(piece, clip, lane, step),
    placeholderData: keepPreviousData,
  });

/** All orders over what a phrase walks. */
export const useShapes = (piece: string, version: number, clip: string, lane: string) =>
  useQuery({
    queryKey: ["orders", piece, version, clip, lane],
    queryFn: () => api.orders(piece, clip, lane),
    placeholderData: keepPreviousData,
  });

/** What a list shows of a piece, as it was when it was changed last. */
export const useCard = (piece: string, updated: string, seen: boolean) =>
  useQuery({ queryKey: ["card", piece, updated], queryFn: () => api.card(piece), enabled: seen });

/** Every semitone by its name in a clip's key. */
export const useSemitones = (piece: string, version: number, clip: string) =>
  useQuery({
    queryKey: ["keyboard", piece, version, clip],
    queryFn: () => api.keyboard(piece, clip),
    placeholderData: keepPreviousData,
  });

/** What a change of key would do. */
export const useKeyPreview = (piece: string, version: number, op: SetKey) =>
  useQuery({
    queryKey: ["key preview", piece, version, op],
    queryFn: () => api.previewKey(piece, op),
    placeholderData: keepPreviousData,
  });

/** What a file will hold. */
export const useSummary = (piece: string, version: number, order: FileOrder) =>
  useQuery({ queryKey: ["summary", piece, version, order], queryFn: () => api.summary(piece, order) });

/** The pieces that are there. */
export const usePieces = () => useQuery({ queryKey: ["pieces"], queryFn: api.list, staleTime: 0 });

/** What was deleted and can be brought back. */
export const useDeleted = (what: "pieces" | "starters") =>
  useQuery({ queryKey: ["deleted", what], queryFn: () => api.deleted(what), staleTime: 0 });

/** The starters of a kind, as they would sound in a clip. */
export const useStarters = (piece: string, version: number, clip: string, kind: string) =>
  useQuery({
    queryKey: ["starters", piece, version, clip, kind],
    queryFn: () => api.starters(piece, clip, kind),
    staleTime: 0,
  });

/** How a lane stands to the starter that it was begun from. */
export const useLaneStarter = (piece: string, version: number, clip: string, lane: string) =>
  useQuery({
    queryKey: ["starter", piece, version, clip, lane],
    queryFn: () => api.laneStarter(piece, clip, lane),
    placeholderData: keepPreviousData,
  });

/** What a lane from elsewhere needs in a clip. */
export const useFits = (piece: string, version: number, clip: string, document: unknown) =>
  useQuery({ queryKey: ["fits", piece, version, clip, document], queryFn: () => api.fits(piece, clip, document) });
