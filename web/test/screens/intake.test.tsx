// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { describe, expect, test } from "vitest";
import type { FileReport } from "../../src/api/gen/server.gen";
import { Intake } from "../../src/dialogs/intake/Intake";
import { useIntake } from "../../src/dialogs/intake/state";
import { asked, button, field, open, reply, show } from "./screen";

describe("a MIDI file that comes in", () => {
  const track = (part: Partial<FileReport["report"]["tracks"][number]> = {}) => ({
    track: 1,
    name: "Quay",
    channels: [1],
    notes: 4,
    low: 50,
    high: 62,
    voices: 1,
    grid: { rate: "1/8", share: 1 },
    becomes: "line",
    left: { wheel: 0, controls: 7, pressures: 0, programs: 1 },
    differs: { notes: 0, of: 4, ms: 0 },
    ...part,
  });
  const report = (part: Partial<FileReport["report"]> = {}): FileReport => ({
    report: {
      type: 1,
      ppq: 480,
      tempo: 96,
      tempoChanges: 2,
      meter: "4/4",
      meterChanges: 0,
      bars: 1,
      keys: [
        { key: "D minor", share: 1 },
        { key: "D dorian", share: 1 },
      ],
      tracks: [track()],
      own: false,
      changed: 0,
      ...part,
    } as FileReport["report"],
    keyNames: ["D minor", "D dorian"],
    drawn: [{ lane: "Quay", names: ["D3", "D4"], voice: {} as never, ticks: 3840, notes: [] }],
    becomings: ["auto", "notes", "line", "pulses", "chords"],
    offers: [],
  });
  const begun = (given: unknown) => {
    open("keel", "low");
    reply("POST /files/report", given);
    useIntake.setState({ file: new File(["MThd"], "quay.mid") });
    return show(<Intake />);
  };
  const lastAsked = () =>
    JSON.parse(new URLSearchParams(asked.at(-1)!.path.split("?")[1]).get("ask") ?? "{}") as object;

  test("is shown first: tempo, meter, keys, and each track with what is beside its notes", async () => {
    begun(report());
    expect(await screen.findByText(/2 changes of tempo left out/)).toBeVisible();
    expect(screen.getByText(/4 notes · D3 to D4 · one voice · 100 % on 1\/8/)).toBeVisible();
    expect(screen.getByText("Beside its notes: 7 controller values, 1 program change.")).toBeVisible();
    expect(asked.every((a) => a.path.startsWith("/files/report"))).toBe(true);
  });
  test("what is chosen of a track is asked for, and what would differ is said", async () => {
    const { person } = begun(report());
    await screen.findByText(/4 notes/);
    reply("POST /files/report", report({ tracks: [track({ differs: { notes: 2, of: 4, ms: 3 } })] }));
    await person.selectOptions(field("What Quay becomes"), "pulses");
    await person.selectOptions(field("Which notes of Quay"), "lowest");
    expect(await screen.findByText("2 of 4 notes move by up to 3 ms.")).toBeVisible();
    await person.click(field(/its feel as the groove/));
    await person.click(button("Add it as a clip"));
    await waitFor(() => expect(asked.at(-1)?.path).toMatch(/\/take\?/));
    expect(lastAsked()).toMatchObject({ feel: true, tracks: [{ track: 1, as: "pulses", only: "lowest" }] });
  });
  test("a track that fits chords is offered as chords first, and each choice says what would differ", async () => {
    const same = { notes: 0, of: 4, ms: 0 };
    const offers = [
      {
        track: 1,
        first: "chords",
        offers: [
          { as: "chords", differs: { notes: 3, of: 4, ms: 21 } },
          { as: "line", why: "several notes at once", differs: same },
          { as: "notes", differs: same },
        ],
      },
    ];
    begun({ ...report(), offers });
    const choice = (await screen.findByRole("combobox", { name: "What Quay becomes" })) as HTMLSelectElement;
    await waitFor(() => expect(choice.value).toBe("chords"));
    expect([...choice.options].map((o) => o.text)).toEqual([
      "stays out",
      "chords: 3 of 4 move, by up to 21 ms",
      "what fits best",
      "notes: nothing moves",
      "line: does not fit",
      "pulses",
    ]);
  });
  test("with no track taken there is nothing to add", async () => {
    const { person } = begun(report());
    await screen.findByText(/4 notes/);
    await person.selectOptions(field("What Quay becomes"), "");
    expect(screen.getByText("Nothing of it comes in.")).toBeVisible();
    expect(button("Add it as a clip")).toBeDisabled();
  });
  test("of ours that changed offers its lanes as they were, and with what changed", async () => {
    const { person } = begun(report({ own: true, changed: 3 }));
    expect(await screen.findByText(/3 notes changed since/)).toBeVisible();
    await person.selectOptions(field("How its lanes come back"), "asWas");
    await person.click(button("Add it as a clip"));
    await waitFor(() => expect(asked.at(-1)?.path).toMatch(/\/take\?/));
    expect(lastAsked()).toMatchObject({ asWas: true });
  });
  test("whose document cannot be taken says why, and comes in plainly", async () => {
    begun(report({ why: "its document is of a newer version" }));
    expect(await screen.findByText(/its document is of a newer version; it comes in plainly/)).toBeVisible();
  });
  test("that cannot be read says so", async () => {
    begun(400);
    expect(await screen.findByRole("alert")).toHaveTextContent("refused");
    expect(button("Add it as a clip")).toBeDisabled();
  });
});
