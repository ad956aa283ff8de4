// @vitest-environment jsdom
import { act, cleanup, fireEvent, render, screen, waitFor } from "@testing-library/react";
import { createElement } from "react";
import { toast, Toaster } from "sonner";
import { afterEach, describe, expect, it } from "vitest";
import { useToastFocus } from "./toast-focus";

afterEach(cleanup);

function Screen() {
  useToastFocus();
  return createElement(
    "div",
    null,
    createElement("input", { "aria-label": "before" }),
    createElement("input", { "aria-label": "after" }),
    createElement(Toaster),
  );
}

describe("a message whose button is pressed", () => {
  it("gives the focus back at once, and does not take it again when the messages are gone", async () => {
    render(createElement(Screen));
    const [before, after] = [screen.getByLabelText("before"), screen.getByLabelText("after")];
    before.focus();
    act(() => void toast("A rule was deleted", { action: { label: "Undo", onClick: () => {} }, duration: Infinity }));
    const undo = await screen.findByText("Undo");
    act(() => undo.focus());
    expect(document.activeElement).toBe(undo);
    act(() => void fireEvent.click(undo));
    expect(document.activeElement).toBe(before);
    act(() => after.focus());
    act(() => void toast.dismiss());
    await waitFor(() => expect(document.querySelector("[data-sonner-toast]")).toBeNull());
    expect(document.activeElement).toBe(after);
  });
});
