import { Button } from "@mantine/core";
import { addLanes } from "../../state/actions";
import { clipOf, laneOf, useApp } from "../../state/store";

/** Adds a control lane for the lane that is worked on. */
export function Add({ disabled }: { disabled: boolean }) {
  const lanes = useApp(clipOf)?.lanes ?? [];
  const own = useApp(laneOf);
  const to = own && own.kind !== "control" ? own : lanes.find((l) => l.kind !== "control");
  if (!to) return null;
  return (
    <Button
      size="compact-sm"
      variant="default"
      disabled={disabled}
      title={`Moves the cutoff, the wheel or another controller of ${to.name}`}
      onClick={() => void addLanes([{ kind: "control", name: "Control", patch: { to: to.id, steps: controlSteps } }])}
    >
      Add a control
    </Button>
  );
}

/** A sweep to begin with: up to the middle of the round, and down again. */
const controlSteps = Array.from({ length: 16 }, (_, i) =>
  i === 0 ? { on: true, value: 32, shape: "line" } : i === 8 ? { on: true, value: 96, shape: "line" } : {},
);
