// @vitest-environment jsdom
import { screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { describe, expect, test, vi } from "vitest";
import { Choice } from "../../src/controls/Choice";
import { NumberBox } from "../../src/controls/NumberBox";
import { PitchBox } from "../../src/controls/PitchBox";
import { ActionMenu, Popup } from "../../src/controls/Popup";
import { TabList } from "../../src/controls/TabList";
import { TextBox } from "../../src/controls/TextBox";
import { useApp } from "../../src/state/store";
import { Progression } from "../../src/lanes/chords/Progression";
import type { ChordsLane } from "../../src/lanes/chords/chords";
import { answer, button, field, open, reply, show } from "./screen";

describe("a text", () => {
  const box = (part: Partial<Parameters<typeof TextBox>[0]> = {}) => {
    const onChange = vi.fn();
    const shown = show(<TextBox label="Title" value="Harbour" onChange={onChange} {...part} />);
    return { ...shown, onChange, input: field("Title") as HTMLInputElement };
  };
  test.each([
    ["is sent with Enter", "{Enter}", ["Weir"]],
    ["is sent on leaving", "{Tab}", ["Weir"]],
    ["comes back with Escape", "{Escape}", []],
  ])("%s", async (_, key, told) => {
    const { person, onChange, input } = box();
    await person.clear(input);
    await person.type(input, `Weir${key}`);
    expect(onChange.mock.calls.flat()).toEqual(told);
    expect(input.value).toBe("Harbour"); // until the answer brings the new one
  });
  test("of nothing but blanks is not sent", async () => {
    const { person, onChange, input } = box();
    await person.clear(input);
    await person.type(input, "   {Enter}");
    expect(onChange).not.toHaveBeenCalled();
  });
  test("that may be empty is", async () => {
    const { person, onChange, input } = box({ mayBeEmpty: true });
    await person.clear(input);
    await person.keyboard("{Enter}");
    expect(onChange).toHaveBeenCalledExactlyOnceWith("");
  });
  test("that is the same is not sent", async () => {
    const { person, onChange, input } = box();
    await person.type(input, " {Enter}");
    expect(onChange).not.toHaveBeenCalled();
  });
  test("that is too long is refused where it is typed, and never cut", async () => {
    const { person, onChange, input } = box({ longest: 10 });
    await person.clear(input);
    await person.type(input, "Harbour wall{Enter}");
    expect(input.value).toBe("Harbour wall");
    expect(screen.getByRole("alert")).toHaveTextContent("At most 10 characters; these are 12.");
    await person.type(input, "{Backspace}{Backspace}{Enter}");
    expect(onChange).toHaveBeenCalledExactlyOnceWith("Harbour wa");
  });
  test("is sent once, however it is left", async () => {
    const { person, onChange, input } = box();
    await person.type(input, "!{Enter}{Enter}");
    await person.tab();
    expect(onChange).toHaveBeenCalledTimes(1);
  });
  test("tells once that it is left", async () => {
    const onLeave = vi.fn();
    const { person, input } = box({ onLeave });
    await person.type(input, "!{Enter}");
    expect(onLeave).toHaveBeenCalledTimes(1);
  });
});

describe("a number", () => {
  const box = (part: Partial<Parameters<typeof NumberBox>[0]> = {}) => {
    const [onChange, onMove] = [vi.fn(), vi.fn()];
    const told = (value: number) => (useApp.getState().held() ? onMove : onChange)(value);
    const shown = show(<NumberBox label="Gate" value={75} low={1} high={400} onChange={told} {...part} />);
    return { ...shown, onChange, onMove, input: field("Gate") as HTMLInputElement };
  };
  test("is heard while an arrow is held, and kept once", async () => {
    const { person, onChange, onMove, input } = box();
    await person.click(input);
    await person.keyboard("{ArrowUp>3}");
    expect(onMove.mock.calls.flat()).toEqual([76, 77, 78]);
    expect(input.value).toBe("78");
    expect(onChange).not.toHaveBeenCalled();
    await person.keyboard("{/ArrowUp}");
    expect(onChange.mock.calls.flat()).toEqual([78]);
  });
  test("that is held is put back by Esc", async () => {
    const { person, onChange, input } = box();
    await person.click(input);
    await person.keyboard("{ArrowUp>3}{Escape}{/ArrowUp}");
    expect(input.value).toBe("75");
    expect(onChange).not.toHaveBeenCalled();
  });
  test.each([
    ["typed", "120{Enter}", [120]],
    ["typed and left", "120{Tab}", [120]],
    ["the same", "75{Enter}", []],
    ["one up", "{ArrowUp}", [76]],
    ["ten down", "{Shift>}{ArrowDown}{/Shift}", [65]],
    ["given up", "300{Escape}", []],
    ["beyond its limits", "401{Enter}", []],
    ["no number", "loud{Enter}", []],
    ["typed, then stepped", "100{ArrowUp}", [101]],
  ])("%s", async (_, keys, told) => {
    const { person, onChange, input } = box();
    await person.click(input);
    await person.keyboard(keys);
    expect(onChange.mock.calls.flat()).toEqual(told);
  });
  test("beyond its limits says what is allowed, in place", async () => {
    const { person, input } = box();
    await person.click(input);
    await person.keyboard("401");
    expect(input).toHaveAttribute("aria-invalid", "true");
    expect(screen.getByRole("alert")).toHaveTextContent("Allowed: 1 to 400.");
    await person.keyboard("{Escape}");
    expect(input).toHaveAttribute("aria-invalid", "false");
    expect(input.value).toBe("75");
  });
  test.each([
    [400, "{ArrowUp}", 400],
    [1, "{ArrowDown}", 1],
    [395, "{Shift>}{ArrowUp}{/Shift}", 400],
  ])("stops at its limits: %i %s", async (value, keys, told) => {
    const { person, onChange, input } = box({ value });
    await person.click(input);
    await person.keyboard(keys);
    expect(onChange).toHaveBeenCalledExactlyOnceWith(told);
  });
  test("of several that differ says so, and is sent even where it is the first one's", async () => {
    const { person, onChange, input } = box({ mixed: true });
    expect(input.placeholder).toBe("mixed");
    await person.click(input);
    await person.keyboard("75{Enter}");
    expect(onChange).toHaveBeenCalledExactlyOnceWith(75);
  });
  test("steps without the dust of fractions", async () => {
    const { person, onChange, input } = box({ value: 0.2, low: 0, step: 0.1 });
    await person.click(input);
    await person.keyboard("{ArrowUp}");
    expect(onChange).toHaveBeenCalledExactlyOnceWith(0.3);
  });
  test("that is wrong is not left with Enter, and left all the same it says that it stays", async () => {
    const { person, input } = box();
    await person.click(input);
    await person.keyboard("401{Enter}");
    expect(document.activeElement).toBe(input);
    await person.tab();
    expect(useApp.getState().error).toBe("Gate: Allowed: 1 to 400. It stays as it was.");
    expect(input.value).toBe("75");
  });
});

test("a choice shows its words and tells what they stand for", async () => {
  const onChange = vi.fn();
  const { person } = show(
    <Choice label="Ends" value="bars" all={["bars", "cycle"]} words={{ cycle: "after a cycle" }} onChange={onChange} />,
  );
  await person.selectOptions(field("Ends"), "after a cycle");
  expect(onChange).toHaveBeenCalledExactlyOnceWith("cycle");
});

test("two pitches are told one by one", async () => {
  const onChange = vi.fn();
  const { person } = show(
    <PitchBox label="Keys" low={36} high={59} onChange={(to) => useApp.getState().held() || onChange(to)} />,
  );
  await person.click(field("Keys: low"));
  await person.keyboard("40{Enter}");
  await person.click(field("Keys: high"));
  await person.keyboard("{ArrowDown}");
  expect(onChange.mock.calls.flat()).toEqual([{ low: 40 }, { high: 58 }]);
});

describe("tabs", () => {
  function Tabs({ vertical, told }: { vertical?: boolean; told: (value: string) => void }) {
    const [value, setValue] = useState("steps");
    const items = ["steps", "motion", "sound"].map((v) => ({ value: v, label: <b>{v}</b> }));
    return (
      <TabList
        label="Parts"
        vertical={vertical}
        value={value}
        items={items}
        onChange={(next) => {
          told(next);
          setValue(next);
        }}
      />
    );
  }
  const chosen = () => screen.getByRole("tab", { selected: true }).textContent;
  test("a click chooses one", async () => {
    const told = vi.fn();
    const { person } = show(<Tabs told={told} />);
    await person.click(screen.getByRole("tab", { name: "motion" }));
    expect(chosen()).toBe("motion");
  });
  test("the arrows choose in a row", async () => {
    const told = vi.fn();
    const { person } = show(<Tabs told={told} />);
    await person.tab();
    await person.keyboard("{ArrowRight}{ArrowRight}");
    expect(told.mock.calls.flat()).toEqual(["motion", "sound"]);
    expect(document.activeElement?.textContent).toBe("sound");
  });
  test("in a column they walk, and Enter chooses", async () => {
    const told = vi.fn();
    const { person } = show(<Tabs vertical told={told} />);
    await person.tab();
    await person.keyboard("{ArrowDown}");
    expect(told).not.toHaveBeenCalled();
    await person.keyboard("{Enter}");
    expect(chosen()).toBe("motion");
  });
});

describe("what opens beside a button", () => {
  const items = (run: () => void) => [
    { label: "Duplicate", run },
    { label: "" },
    { label: "Move up", run, disabled: true },
  ];
  test("a menu runs what is chosen, and closes", async () => {
    const run = vi.fn();
    const { person } = show(<ActionMenu button={<button>More</button>} position="bottom-start" items={items(run)} />);
    expect(button("More")).toHaveAttribute("aria-expanded", "false");
    await person.click(button("More"));
    await person.click(await screen.findByRole("menuitem", { name: "Duplicate" }));
    expect(run).toHaveBeenCalledTimes(1);
    await waitFor(() => expect(button("More")).toHaveAttribute("aria-expanded", "false"));
  });
  test("what cannot be done is not", async () => {
    const run = vi.fn();
    const { person } = show(<ActionMenu button={<button>More</button>} position="bottom-start" items={items(run)} />);
    await person.click(button("More"));
    expect(await screen.findByRole("menuitem", { name: "Move up" })).toBeDisabled();
  });
  test("a menu is gone through with the keys", async () => {
    const run = vi.fn();
    const { person } = show(<ActionMenu button={<button>More</button>} position="bottom-start" items={items(run)} />);
    await person.tab();
    await person.keyboard("{Enter}");
    const first = await screen.findByRole("menuitem", { name: "Duplicate" });
    await waitFor(async () => {
      await person.keyboard("{ArrowDown}");
      expect(document.activeElement).toBe(first);
    });
    await person.keyboard("{Enter}");
    expect(run).toHaveBeenCalledTimes(1);
  });
  test("a panel opens, is closed by what is in it, and leaves the keys to the page", async () => {
    const { person } = show(
      <Popup button={<button>Groove</button>} position="bottom-start" trapFocus>
        {(close) => <button onClick={close}>Done</button>}
      </Popup>,
    );
    expect(screen.queryByText("Done")).toBeNull();
    await person.tab();
    await person.keyboard("{Enter}");
    await waitFor(() => expect(button("Groove")).toHaveAttribute("aria-expanded", "true"));
    await person.click(await screen.findByText("Done"));
    await waitFor(() => expect(screen.queryByText("Done")).toBeNull());
    expect(document.activeElement).toBe(document.body);
  });
  test("a second click closes it", async () => {
    const { person } = show(
      <Popup button={<button>Groove</button>} position="bottom-start">
        {() => <p>Swing</p>}
      </Popup>,
    );
    await person.click(button("Groove"));
    await screen.findByText("Swing");
    await person.click(button("Groove"));
    await waitFor(() => expect(screen.queryByText("Swing")).toBeNull());
  });
});

test("a range of pitches is told in notes too", async () => {
  open("keel", "low");
  reply("GET /pieces/lantern-regatta/clips/keel/keyboard", answer("keyboard"));
  show(<PitchBox label="Keys" low={42} high={54} onChange={() => {}} />);
  await waitFor(() => expect(screen.getByTestId("range-notes")).toHaveTextContent("F♯2 … F♯3"));
});

describe("the chord line", () => {
  const line = () => {
    const { lane, view } = open("basin", "swell");
    reply("GET /pieces/lantern-regatta/clips/basin/progression", []);
    return show(<Progression lane={lane as ChordsLane} view={view} />);
  };
  test("says what to do when it has the focus, and that / leads to it", async () => {
    const { person } = line();
    await person.click(field("Chord line of Swell"));
    expect(screen.getByTestId("chord-line-hint")).toHaveTextContent("Enter writes them, Esc goes back to the sheet");
  });
  test("takes no / as its first sign", async () => {
    const { person } = line();
    await person.click(field("Chord line of Swell"));
    await person.keyboard("/i V/3");
    expect(field("Chord line of Swell")).toHaveValue("i V/3");
  });
});
