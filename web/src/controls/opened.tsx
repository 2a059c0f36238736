import { Menu, Popover } from "@mantine/core";
import { useEffect, type ReactNode } from "react";
import { Said } from "./Said";
import { useApp } from "../state/store";
import type { MenuItem, Position } from "./Popup";
import css from "./Popup.module.css";

interface Opened {
  /** The id of the button that opened it. */
  of: string;
  opened: boolean;
  setOpened: (opened: boolean) => void;
  position: Position;
}

/** What is refused while a panel is open is said in it. */
function Problem() {
  // What was said before it was opened is no longer where the hand is.
  useEffect(() => useApp.getState().set({ error: "", remark: "", mends: [] }), []);
  const said = useApp((s) => s.error || s.remark);
  return said ? (
    <p className={css.problem} role={useApp.getState().error ? "alert" : "status"}>
      <Said />
    </p>
  ) : null;
}

/** Where it opens: over the button, which is not its own. */
const anchor = <span className={css.anchor} aria-hidden />;

export function OpenedPanel({
  of,
  opened,
  setOpened,
  className,
  children,
  ...options
}: Opened & {
  trapFocus?: boolean;
  width?: number;
  className?: string;
  children: (close: () => void) => ReactNode;
}) {
  return (
    <Popover opened={opened} onChange={setOpened} {...options}>
      <Popover.Target>{anchor}</Popover.Target>
      <Popover.Dropdown
        className={className}
        aria-labelledby={of}
        onKeyDownCapture={(e) => e.key === "Escape" && document.getElementById(of)?.focus()}
      >
        {opened && children(() => setOpened(false))}
        {opened && <Problem />}
      </Popover.Dropdown>
    </Popover>
  );
}

export function OpenedMenu({ of, opened, setOpened, position, items }: Opened & { items: MenuItem[] }) {
  return (
    <Menu opened={opened} onChange={setOpened} position={position} withInitialFocusPlaceholder={false}>
      <Menu.Target>{anchor}</Menu.Target>
      <Menu.Dropdown aria-labelledby={of}>
        {items.map(({ label, run, disabled }, i) =>
          run ? (
            <Menu.Item key={label} disabled={disabled} onClick={run}>
              {label}
            </Menu.Item>
          ) : (
            <Menu.Divider key={i} />
          ),
        )}
      </Menu.Dropdown>
    </Menu>
  );
}
