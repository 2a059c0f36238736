import { Button } from "@mantine/core";
import { addLanes } from "../../state/actions";

export function Add({ disabled }: { disabled: boolean }) {
  return (
    <Button
      size="compact-sm"
      variant="default"
      disabled={disabled}
      title="Notes anywhere, on no grid but the one that your hand goes by"
      onClick={() => void addLanes([{ kind: "notes", name: "Notes" }])}
    >
      Add free notes
    </Button>
  );
}
