import { lazy, Suspense, useLayoutEffect, useRef, type ComponentType, type LazyExoticComponent } from "react";
import { useApp } from "../state/store";
import type { Panel } from "../state/app";

/** Dialogs are loaded when they are first opened. To add one, add a row. */
const panels: Record<Exclude<Panel, null>, LazyExoticComponent<ComponentType>> = {
  key: lazy(() => import("../dialogs/key/KeyPicker").then((m) => ({ default: m.KeyPicker }))),
  clip: lazy(() => import("../clips/NewClip").then((m) => ({ default: m.NewClip }))),
  ports: lazy(() => import("../dialogs/ports/Ports").then((m) => ({ default: m.Ports }))),
  render: lazy(() => import("../dialogs/export/ExportPanel").then((m) => ({ default: m.ExportPanel }))),
  bass: lazy(() => import("../dialogs/bass/BassDialog").then((m) => ({ default: m.BassDialog }))),
  intake: lazy(() => import("../dialogs/intake/Intake").then((m) => ({ default: m.Intake }))),
  print: lazy(() => import("../dialogs/print/PrintPanel").then((m) => ({ default: m.PrintPanel }))),
  starters: lazy(() => import("../dialogs/starters/Chooser").then((m) => ({ default: m.Chooser }))),
  sketch: lazy(() => import("../dialogs/sketch/Sketches").then((m) => ({ default: m.Sketches }))),
  versions: lazy(() => import("../dialogs/versions/Versions").then((m) => ({ default: m.Versions }))),
  paste: lazy(() => import("../dialogs/starters/Paste").then((m) => ({ default: m.Paste }))),
  keys: lazy(() => import("../shortcuts/KeyList").then((m) => ({ default: m.KeyList }))),
};
const ConflictDialog = lazy(() => import("../notices/Conflict").then((m) => ({ default: m.ConflictDialog })));

/** The dialog that is open. */
export function Panels() {
  const panel = useApp((s) => s.panel);
  const conflict = useApp((s) => s.conflict !== null);
  // A dialog that closes gives the focus back to where it was.
  const before = useRef<HTMLElement | null>(null);
  const any = panel !== null || conflict;
  useLayoutEffect(() => {
    if (any) before.current = document.activeElement instanceof HTMLElement ? document.activeElement : null;
    else before.current?.focus({ preventScroll: true });
  }, [any]);
  return (
    <Suspense fallback={<div data-later hidden />}>
      {Object.entries(panels).map(([name, Dialog]) => name === panel && <Dialog key={name} />)}
      {conflict && <ConflictDialog />}
    </Suspense>
  );
}
