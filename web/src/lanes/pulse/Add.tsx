import { Button, Popover } from "@mantine/core";
import { useState } from "react";
import { later } from "../../controls/later";

const Rows = later(() => import("./Rows").then((m) => m.Rows), 420);

/** Adds rows: a kit of drums, or one for each of some pitches picked on a ladder. */
export function Add({ disabled }: { disabled: boolean }) {
  const [open, setOpen] = useState(false);
  return (
    <Popover position="top-start" trapFocus width={392} opened={open} onChange={setOpen}>
      <Popover.Target>
        <Button size="compact-sm" variant="default" disabled={disabled} onClick={() => setOpen(!open)}>
          Add pulses ▾
        </Button>
      </Popover.Target>
      <Popover.Dropdown>{open && <Rows done={() => setOpen(false)} />}</Popover.Dropdown>
    </Popover>
  );
}
