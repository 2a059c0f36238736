import { Menu, Popover } from "@mantine/core";
import { cloneElement, useLayoutEffect, useRef, useState, type ReactNode } from "react";
import type { ButtonElement, MenuItem } from "./Popup";

interface Opened {
  button: ButtonElement;
  /** Whether the button had the focus when it was used. */
  focused: boolean;
  position: "bottom-start" | "bottom-end" | "top-start" | "right-end";
}

/** Open from when it is first shown on; the button that it takes over keeps the focus, to
 * which it goes back. */
function useOpened(focused: boolean) {
  const [opened, setOpened] = useState(true);
  const target = useRef<HTMLButtonElement>(null);
  useLayoutEffect(() => {
    if (focused) target.current?.focus({ preventScroll: true });
  }, [focused]);
  return { opened, setOpened, target };
}

export function OpenedPanel({
  button,
  focused,
  className,
  children,
  ...options
}: Opened & {
  trapFocus?: boolean;
  width?: number;
  className?: string;
  children: (close: () => void) => ReactNode;
}) {
  const { opened, setOpened, target } = useOpened(focused);
  return (
    <Popover opened={opened} onChange={setOpened} {...options}>
      <Popover.Target>{cloneElement(button, { ref: target, onClick: () => setOpened(!opened) })}</Popover.Target>
      <Popover.Dropdown className={className}>{opened && children(() => setOpened(false))}</Popover.Dropdown>
    </Popover>
  );
}

export function OpenedMenu({ button, focused, position, items }: Opened & { items: MenuItem[] }) {
  const { opened, setOpened, target } = useOpened(focused);
  return (
    <Menu opened={opened} onChange={setOpened} position={position}>
      <Menu.Target>{cloneElement(button, { ref: target })}</Menu.Target>
      <Menu.Dropdown>
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
