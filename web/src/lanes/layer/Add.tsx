import { Button } from "@mantine/core";
import { addLanes } from "../../state/actions";
import { clipOf, laneOf, useApp } from "../../state/store";

/** Adds a layer an octave under the lane that is worked on. */
export function Add({ disabled }: { disabled: boolean }) {
  const lanes = useApp(clipOf)?.lanes ?? [];
  const own = useApp(laneOf);
  const of = own && own.kind !== "control" ? own : lanes.find((l) => l.kind !== "control");
  if (!of) return null;
  return (
    <Button
      size="compact-sm"
      variant="default"
      disabled={disabled}
      title={`Plays the notes of ${of.name} again, moved`}
      onClick={() =>
        void addLanes([
          { kind: "layer", name: `${of.name} below`, patch: { of: of.id, octave: -1, sound: soundOf(of.sound) } },
        ])
      }
    >
      Add a layer
    </Button>
  );
}

/** The original's voice: what it is heard with suits its notes. */
const soundOf = ({ voice, wave }: { voice: string; wave: string }) => (voice ? { voice, wave } : {});
