import { Button } from "@mantine/core";
import { Move } from "../steps/Tools";
import { addPhrase } from "./actions";

/** What a phrase sounds is the walk's: there is no pitch to fill. */
export function Fills(): null {
  return null;
}

/** Moves what the selected steps play. */
export function Tools() {
  return (
    <>
      <Move title="Offset" unit="degree" name="A scale step" />
      <Move title="Octave" unit="octave" name="An octave" />
    </>
  );
}

export function Add({ disabled }: { disabled: boolean }) {
  return (
    <Button size="compact-sm" variant="default" disabled={disabled} onClick={() => void addPhrase()}>
      Add a phrase
    </Button>
  );
}
