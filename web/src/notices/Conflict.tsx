import { Button } from "@mantine/core";
import { Frame } from "../dialogs/Frame";
import { useApp } from "../state/store";

/** Another tab was faster: neither side is lost without being asked. */
export function ConflictDialog() {
  const conflict = useApp((s) => s.conflict);
  const settle = useApp((s) => s.settle);
  const many = (conflict?.edits.length ?? 0) > 1;
  return (
    <Frame opened={conflict !== null} onClose={() => void settle(false)} title="This piece has moved on" leaves={false}>
      <p style={{ marginTop: 0 }}>
        It was changed elsewhere, perhaps in another tab, since this one last saw it.{" "}
        {many ? "Your edits have" : "Your edit has"} not been applied yet.
      </p>
      <div style={{ display: "flex", gap: 8, flexWrap: "wrap" }}>
        {conflict?.edits.length ? (
          <Button data-main onClick={() => void settle(true)}>
            {many ? "Put my edits on top of it" : "Put my edit on top of it"}
          </Button>
        ) : null}
        <Button variant="default" onClick={() => void settle(false)}>
          {many ? "Show the newer piece, drop my edits" : "Show the newer piece, drop my edit"}
        </Button>
      </div>
    </Frame>
  );
}
