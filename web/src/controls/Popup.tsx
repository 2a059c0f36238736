import {
  cloneElement,
  useEffect,
  useId,
  useState,
  type KeyboardEvent,
  type MouseEvent,
  type ReactElement,
  type ReactNode,
} from "react";
import { flushSync } from "react-dom";
import { opens } from "./opening";
import css from "./Popup.module.css";

interface ButtonProps {
  id?: string;
  onClick?: () => void;
  onMouseDown?: (e: MouseEvent) => void;
  onKeyDown?: (e: KeyboardEvent) => void;
  onPointerEnter?: () => void;
  "aria-haspopup"?: "menu" | "dialog";
  "aria-expanded"?: boolean;
}

/** Where it opens beside its button. */
export type Position = "bottom-start" | "bottom-end" | "top-start" | "right-start" | "right-end";

interface Props {
  button: ReactElement<ButtonProps>;
  position: Position;
  trapFocus?: boolean;
  width?: number;
  className?: string;
  /** What opens; close closes it. */
  children: (close: () => void) => ReactNode;
}

const load = () => import("./opened");
type Parts = Awaited<ReturnType<typeof load>>;

/** A button that stays where it is, with what opens beside it, which is loaded when it is
 * first used. */
function useOpening(button: Props["button"], kind: "menu" | "dialog") {
  const id = useId();
  const [parts, setParts] = useState<Parts | null>(null);
  const [opened, setOpened] = useState(false);
  const [waiting, setWaiting] = useState(false);
  useEffect(() => (opened ? opens(() => setOpened(false)) : undefined), [opened]);
  const own = cloneElement(button, {
    id,
    "aria-haspopup": kind,
    "aria-expanded": opened,
    onPointerEnter: () => void load(),
    // A press on the button is not one outside of what it opened: the click closes that.
    onMouseDown: (e) => opened && e.stopPropagation(),
    // A key that is quicker than the focus is meant for what opens, and for nothing else.
    onKeyDown: (e) => (waiting || opened) && !["Escape", "Tab"].includes(e.key) && e.stopPropagation(),
    onClick: () => {
      if (parts) {
        setOpened(!opened);
        return;
      }
      setWaiting(true);
      void load()
        .then((loaded) => {
          // It is there before it opens: it gives the focus back to what has it then.
          flushSync(() => setParts(loaded));
          setOpened(true);
        })
        .finally(() => setWaiting(false)); // where it cannot be had, the next click asks again
    },
  });
  return { id, parts, opened, setOpened, own };
}

/** A button that opens a panel beside it. */
export function Popup({ button, children, ...options }: Props) {
  const { id, parts, opened, setOpened, own } = useOpening(button, "dialog");
  return (
    <span className={css.place}>
      {own}
      {parts && (
        <parts.OpenedPanel of={id} opened={opened} setOpened={setOpened} {...options}>
          {children}
        </parts.OpenedPanel>
      )}
    </span>
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
  const { id, parts, opened, setOpened, own } = useOpening(button, "menu");
  return (
    <span className={css.place}>
      {own}
      {parts && <parts.OpenedMenu of={id} opened={opened} setOpened={setOpened} position={position} items={items} />}
    </span>
  );
}
