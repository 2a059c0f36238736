import { Menu, Popover } from "@mantine/core";
import type { ReactNode } from "react";
import type { MenuItem, Position } from "./Popup";
import css from "./Popup.module.css";

interface Opened {
  /** The id of the button that opened it. */
  of: string;
  opened: boolean;
  setOpened: (opened: boolean) => void;
  position: Position;
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
      </Popover.Dropdown>
    </Popover>
  );
}

export function OpenedMenu({ of, opened, setOpened, position, items }: Opened & { items: MenuItem[] }) {
  return (
    <Menu opened={opened} onChange={setOpened} position={position}>
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
