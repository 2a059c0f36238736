// @vitest-environment jsdom
import { fireEvent, screen, waitFor } from "@testing-library/react";
import { useState } from "react";
import { afterEach, beforeEach, describe, expect, test, vi } from "vitest";
import { Choice } from "../../src/controls/Choice";
import { Dialog } from "../../src/dialogs/Dialog";
import { spent, watchHands } from "../../src/controls/hands";
import { NumberBox } from "../../src/controls/NumberBox";
import { ActionMenu, Popup } from "../../src/controls/Popup";
import { TabList } from "../../src/controls/TabList";
import { TextBox } from "../../src/controls/TextBox";
import { onKey } from "../../src/shortcuts/keys";
import { useApp } from "../../src/state/store";
import { button, field, open, show } from "./screen";

let stop: () => void;
beforeEach(() => {
  stop = watchHands();
  window.addEventListener("keydown", onKey);
});
afterEach(() => {
  stop();
  window.removeEventListener("keydown", onKey);
});

/** A page with one of each control beside the sheet. */
function Page({ pressed }: { pressed: () => void }) {
  const [number, setNumber] = useState(75);
  const [word, setWord] = useState("up");
  return (
    <>
      <div data-sheet tabIndex={0} aria-label="Sheet" onPointerDown={() => (met = spent())} />
      <button onClick={pressed}>Undo</button>
      <TabList label="Parts" value="a" onChange={pressed} items={[{ value: "a", label: "Steps" }]} />
      <input type="checkbox" aria-label="In time" onChange={pressed} />
      <NumberBox label="Gate" value={number} low={1} high={400} onChange={setNumber} />
      <TextBox label="Name" value="Low" onChange={pressed} />
      <Choice label="Order" value={word} all={["up", "down"]} onChange={setWord} />
      <ActionMenu button={<button>More</button>} position="bottom-start" items={[{ label: "Double", run: pressed }]} />
      <Popup button={<button>Fill</button>} position="bottom-start">
        {() => <button onClick={pressed}>Spread</button>}
      </Popup>
    </>
  );
}
/** Whether the last press on the sheet was spent on leaving something. */
let met = false;

const sheet = () => field("Sheet");
const page = () => {
  const pressed = vi.fn();
  open("keel", "low");
  return { ...show(<Page pressed={pressed} />), pressed };
};

describe("what the mouse presses leaves the keys with the sheet", () => {
  test.each([
    ["a button", () => button("Undo")],
    ["a tab", () => screen.getByRole("tab")],
    ["a tick", () => field("In time")],
  ])("%s", async (_, control) => {
    const { person, pressed } = page();
    await person.click(control());
    const times = pressed.mock.calls.length;
    expect(document.activeElement).toBe(sheet());
    await person.keyboard("{Enter}");
    expect(pressed).toHaveBeenCalledTimes(times);
  });
  test("pressed twice, and after it was reached by keyboard", async () => {
    const { person, pressed } = page();
    button("Undo").focus();
    await person.keyboard("{Shift}");
    await person.click(button("Undo"));
    await person.click(button("Undo"));
    expect(pressed).toHaveBeenCalledTimes(2);
    expect(document.activeElement).toBe(sheet());
  });
  test("a choice made", async () => {
    const { person } = page();
    await person.click(field("Order"));
    await person.selectOptions(field("Order"), "down");
    expect(document.activeElement).toBe(sheet());
  });
  test("a menu, chosen from", async () => {
    const { person, pressed } = page();
    await person.click(button("More"));
    await person.click(await screen.findByRole("menuitem", { name: "Double" }));
    expect(pressed).toHaveBeenCalledTimes(1);
    await waitFor(() => expect(document.activeElement).toBe(sheet()));
  });
  test("a panel, pressed in and closed with Escape", async () => {
    const { person, pressed } = page();
    await person.click(button("Fill"));
    await person.click(await screen.findByRole("button", { name: "Spread" }));
    expect(pressed).toHaveBeenCalledTimes(1);
    expect(document.activeElement).toBe(sheet());
    await person.keyboard("{Escape}");
    await waitFor(() => expect(screen.queryByRole("button", { name: "Spread" })).toBeNull());
  });
});

test("a button that is reached by keyboard keeps the keys that press it", async () => {
  const { person, pressed } = page();
  await person.tab();
  await person.tab();
  expect(document.activeElement).toBe(button("Undo"));
  await person.keyboard("{Enter} ");
  expect(pressed).toHaveBeenCalledTimes(2);
});

test("a choice that is reached by keyboard keeps the keys", async () => {
  const { person } = page();
  field("Order").focus();
  await person.keyboard("{Shift}");
  fireEvent.change(field("Order"), { target: { value: "down" } }); // as the arrows do
  expect(document.activeElement).toBe(field("Order"));
});

describe("a field gives the keys back", () => {
  test.each([
    ["with Enter", "Gate", "50{Enter}"],
    ["with Escape", "Gate", "50{Escape}"],
    ["a text with Enter", "Name", "Reed{Enter}"],
    ["a text with Escape", "Name", "Reed{Escape}"],
  ])("%s", async (_, name, keys) => {
    const { person } = page();
    await person.click(field(name));
    await person.keyboard(keys);
    expect(document.activeElement).toBe(sheet());
  });
  test("and a press on the sheet that leaves it does nothing else", async () => {
    const { person } = page();
    await person.click(field("Gate"));
    await person.keyboard("50");
    await person.click(sheet());
    expect(met).toBe(true);
    expect(field("Gate")).toHaveValue("50");
    await person.click(sheet());
    expect(met).toBe(false);
  });
  test("so does one that closes a panel", async () => {
    const { person } = page();
    await person.click(button("Fill"));
    await screen.findByRole("button", { name: "Spread" });
    await person.click(sheet());
    expect(met).toBe(true);
  });
});

describe("a dialog", () => {
  function Ask({ main, close }: { main: () => Promise<unknown>; close: () => void }) {
    const [number, setNumber] = useState(5);
    return (
      <Dialog title="Ask" size={400} onClose={close} main={main} label="Do it">
        <NumberBox label="Hits" value={number} low={1} high={9} onChange={setNumber} />
        <Choice label="Way" value="up" all={["up", "down"]} onChange={() => {}} />
      </Dialog>
    );
  }
  test.each([
    ["a field", "Hits"],
    ["a choice", "Way"],
  ])("does its main thing with Enter in %s, once", async (_, name) => {
    let done = () => {};
    const main = vi.fn(() => new Promise<void>((resolve) => (done = resolve)));
    const { person } = show(<Ask main={main} close={() => {}} />);
    field(name).focus();
    await person.keyboard("{Enter}{Enter}");
    expect(main).toHaveBeenCalledTimes(1);
    done();
  });
  test("says in itself what is refused", async () => {
    const { person } = show(<Ask main={() => Promise.reject(new Error("no room"))} close={() => {}} />);
    await person.click(button("Do it"));
    expect(await screen.findByRole("alert")).toHaveTextContent("no room");
    expect(useApp.getState().error).toBe("no room");
  });
  test("is left with Escape", async () => {
    const close = vi.fn();
    const { person } = show(<Ask main={() => Promise.resolve()} close={close} />);
    field("Hits").focus();
    await person.keyboard("{Escape}");
    expect(close).toHaveBeenCalledTimes(1);
  });
});

test("a digit beyond the key's degrees says so", async () => {
  const { person } = page();
  await person.keyboard("9");
  expect(useApp.getState().error).toMatch(/^There is no degree 9: .* has 7\.$/);
});
