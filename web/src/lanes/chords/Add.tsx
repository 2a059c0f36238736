import { Button } from "@mantine/core";
import { addChords } from "./actions";

/** Chords are placed from the board and the chord line: a fill has nothing to add. */
export function Fills(): null {
  return null;
}

export function Add({ disabled }: { disabled: boolean }) {
  return (
    <Button size="compact-sm" variant="default" disabled={disabled} onClick={() => void addChords()}>
      Add chords
    </Button>
  );
}
