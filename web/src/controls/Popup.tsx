import { cloneElement, lazy, Suspense, useState, type ReactElement, type ReactNode, type Ref } from "react";

/** A button in the page: what is given to it comes beside its own. */
export type ButtonElement = ReactElement<{
  onClick?: () => void;
  onPointerEnter?: () => void;
  "aria-haspopup"?: "menu" | "dialog";
  "aria-expanded"?: boolean;
  ref?: Ref<HTMLButtonElement>;
}>;

interface Props {
  button: ButtonElement;
  position: "bottom-start" | "bottom-end" | "top-start" | "right-end";
  trapFocus?: boolean;
  width?: number;
  className?: string;
  /** What opens; close closes it. */
  children: (close: () => void) => ReactNode;
}

const load = () => import("./opened");
const Panel = lazy(() => load().then((m) => ({ default: m.OpenedPanel })));
const Items = lazy(() => load().then((m) => ({ default: m.OpenedMenu })));

/** The button as it is until it is first used: what opens panels is loaded by then. used tells
 * whether it had the focus when it was. */
function useOpening(button: ButtonElement, kind: "menu" | "dialog") {
  const [used, setUsed] = useState<{ focused: boolean } | null>(null);
  const closed = cloneElement(button, {
    "aria-haspopup": kind,
    "aria-expanded": false,
    onPointerEnter: () => void load(),
    onClick: () => setUsed({ focused: document.activeElement instanceof HTMLButtonElement }),
  });
  return { used, closed };
}

/** A button that opens a panel beside it. */
export function Popup({ button, children, ...options }: Props) {
  const { used, closed } = useOpening(button, "dialog");
  if (!used) return closed;
  return (
    <Suspense fallback={closed}>
      <Panel button={button} focused={used.focused} {...options}>
        {children}
      </Panel>
    </Suspense>
  );
}

export interface MenuItem {
  label: string;
  /** Absent: it is a line between others. */
  run?: () => void;
  disabled?: boolean;
}

/** A button that opens a menu. */
export function ActionMenu({ button, position, items }: Pick<Props, "button" | "position"> & { items: MenuItem[] }) {
  const { used, closed } = useOpening(button, "menu");
  if (!used) return closed;
  return (
    <Suspense fallback={closed}>
      <Items button={button} focused={used.focused} position={position} items={items} />
    </Suspense>
  );
}
