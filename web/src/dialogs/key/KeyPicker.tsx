import { Button, SegmentedControl } from "@mantine/core";
import { useState } from "react";
import { useKeyPreview } from "../../api/queries";
import type { SetKey } from "../../api/gen/op.gen";
import type { Key } from "../../api/gen/piece.gen";
import { Dialog } from "../Dialog";
import { clipOf, useApp } from "../../state/store";
import { keptOf } from "../../state/tried";
import { useTrying } from "../../state/pointing";
import { ScaleChooser } from "./ScaleChooser";
import css from "./key.module.css";

const close = () => useApp.getState().set({ panel: null });

/** Changes the key of the clip or of the piece, after showing what that does to
 * the notes that are there. */
export function KeyPicker() {
  const piece = useApp((s) => keptOf(s).piece)!;
  const clip = useApp((s) => clipOf(keptOf(s)));
  const [key, setKey] = useState<Key>(clip?.key ?? piece.key);
  const [keep, setKeep] = useState("degrees");
  const [whole, setWhole] = useState(!clip?.key);
  const id = useApp((s) => s.id);
  const version = useApp((s) => s.version);
  const change: SetKey = { key, keep, clip: whole ? undefined : clip?.id };
  const { data: preview, error } = useKeyPreview(id, version, change);
  const op = { op: "key.set" as const, ...change };
  useTrying(JSON.stringify(change), [op]);
  const apply = async (to: Key | null) => {
    if (await useApp.getState().edit([{ ...op, key: to }])) close();
  };
  return (
    <Dialog
      title="Key and scale"
      size={720}
      onClose={close}
      main={() => apply(key)}
      label="Change the key"
      ready={error === null}
      more={
        clip?.key && !whole ? (
          <Button variant="subtle" onClick={() => void apply(null)}>
            Back to the piece’s key
          </Button>
        ) : null
      }
    >
      <ScaleChooser value={key} onChange={setKey} />
      <div className={css.preview}>
        <div style={{ display: "flex", gap: 12, alignItems: "center", flexWrap: "wrap" }}>
          <SegmentedControl
            size="xs"
            value={keep}
            onChange={setKeep}
            data={[
              { value: "degrees", label: "Keep degrees" },
              { value: "pitches", label: "Keep pitches" },
            ]}
          />
          <SegmentedControl
            size="xs"
            value={whole ? "piece" : "clip"}
            onChange={(v) => setWhole(v === "piece")}
            data={[
              { value: "piece", label: "The whole piece" },
              { value: "clip", label: `Only ${clip?.name ?? "this clip"}` },
            ]}
          />
        </div>
        {error && <p style={{ color: "var(--wrong)" }}>{error.message}</p>}
        {preview && !error && (
          <>
            <p style={{ margin: "8px 0 2px" }} data-testid="key-preview">
              <b>
                {preview.changes.length} of {preview.total} notes change
              </b>{" "}
              in {preview.key}
              {preview.changes.length ? ":" : "."}
            </p>
            {preview.changes.length > 0 && (
              <div className={css.changes} tabIndex={0} role="group" aria-label="Notes that change">
                <table>
                  <tbody>
                    {preview.changes.slice(0, 60).map((c) => (
                      <tr key={`${c.clip} ${c.lane} ${c.step}`}>
                        <td>{c.clip}</td>
                        <td>{c.lane}</td>
                        <td>step {c.step}</td>
                        <td>
                          {c.from} → {c.to}
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
                {preview.changes.length > 60 && <span>and {preview.changes.length - 60} more</span>}
              </div>
            )}
          </>
        )}
      </div>
    </Dialog>
  );
}
