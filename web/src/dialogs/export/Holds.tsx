import { Button } from "@mantine/core";
import type { RefObject } from "react";
import type { FileSummary } from "../../api/gen/server.gen";
import css from "./ExportPanel.module.css";

/** What a file will hold, track by track. */
export function Holds({ summary }: { summary: FileSummary }) {
  return (
    <>
      <p>
        <b>{summary.name}</b> will last {summary.lasts} ({summary.seconds.toFixed(1)} s)
        {summary.key ? `, in ${summary.key}` : ", without a key signature"}, {summary.bytes} bytes.
      </p>
      <table>
        <thead>
          <tr>
            <th>Track</th>
            <th>Channel</th>
            <th>Notes</th>
            <th>From – to</th>
            <th>Bends</th>
            <th>Controls</th>
          </tr>
        </thead>
        <tbody>
          {summary.tracks.map((t, i) => (
            <tr key={i}>
              <td>{t.name}</td>
              <td>{t.last === t.channel ? t.channel : `${t.channel}–${t.last}`}</td>
              <td>{t.notes}</td>
              <td>{!t.notes ? "silent" : t.lowest === t.highest ? t.lowest : `${t.lowest} – ${t.highest}`}</td>
              <td>{t.bends}</td>
              <td>{t.controls}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {summary.problems.map((p) => (
        <p key={p} className={css.trouble}>
          {p}
        </p>
      ))}
    </>
  );
}

interface OutProps {
  download: RefObject<HTMLAnchorElement | null>;
  url: string;
  /** What the file will hold; undefined: it is not ready. */
  summary: FileSummary | undefined;
}

/** Whether a link can be dragged out of the page as a file: browsers built on Chromium can. */
const dragsOut = (): boolean => "chrome" in window;

/** The ways out: dragged into a studio, or downloaded. */
export function Out({ download, url, summary }: OutProps) {
  return (
    <div className={css.actions}>
      {dragsOut() && (
        <a
          className={css.drag}
          draggable={!!summary}
          href={summary ? url : undefined}
          download={summary?.name}
          aria-disabled={!summary}
          onDragStart={(e) => summary && e.dataTransfer.setData("DownloadURL", `audio/midi:${summary.name}:${url}`)}
          title="Drag this into your studio or a folder"
        >
          ⠿ Drag the clip out as a file
        </a>
      )}
      <Button
        component="a"
        ref={download}
        tabIndex={0}
        data-autofocus
        href={summary ? url : undefined}
        download={summary?.name}
        disabled={!summary}
        data-main
      >
        Download
      </Button>
    </div>
  );
}
