import { Button } from "@mantine/core";
import { later } from "../../controls/later";
import { Popup } from "../../controls/Popup";

const Rows = later(() => import("./Rows").then((m) => m.Rows), 420);

/** Adds rows: a kit of drums, or one for each of some pitches picked on a ladder. */
export function Add({ disabled }: { disabled: boolean }) {
  const button = (
    <Button size="compact-sm" variant="default" disabled={disabled}>
      Add pulses ▾
    </Button>
  );
  return (
    <Popup button={button} position="top-start" trapFocus width={392}>
      {(close) => <Rows done={close} />}
    </Popup>
  );
}
