import { Button } from "@mantine/core";
import { addPhrase } from "./actions";

export function Add({ disabled }: { disabled: boolean }) {
  return (
    <Button size="compact-sm" variant="default" disabled={disabled} onClick={() => void addPhrase()}>
      Add a phrase
    </Button>
  );
}
