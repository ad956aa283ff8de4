// @vitest-environment jsdom
import { act, cleanup, renderHook } from "@testing-library/react";
import { toast } from "sonner";
import { afterEach, describe, expect, it, vi } from "vitest";
import { Later, useLater } from "./later";

afterEach(() => {
  cleanup();
  vi.restoreAllMocks();
});

const settled = () => act(async () => {});

describe("a part that comes later", () => {
  it("is loaded once, however many wait for it, and is there at once from then on", async () => {
    const load = vi.fn(() => Promise.resolve("part"));
    const later = new Later(load);
    const [one, other] = [renderHook(() => useLater(later, true)), renderHook(() => useLater(later, true))];
    expect(one.result.current).toBeNull();
    await settled();
    expect([one.result.current, other.result.current]).toEqual(["part", "part"]);
    expect(renderHook(() => useLater(later, true)).result.current).toBe("part");
    expect(load).toHaveBeenCalledTimes(1);
  });

  it("is told where it does not come and somebody waits for it, and is asked for again", async () => {
    const told = vi.spyOn(toast, "error");
    const load = vi.fn<() => Promise<string>>().mockRejectedValueOnce(new Error("gone")).mockResolvedValue("part");
    const later = new Later(load);
    const { result } = renderHook(() => useLater(later, true));
    await settled();
    expect(result.current).toBeNull();
    expect(told).toHaveBeenCalledTimes(1);
    const { action } = told.mock.calls[0]![1] as unknown as { action: { onClick: () => void } };
    action.onClick();
    await settled();
    expect(load).toHaveBeenCalledTimes(2);
    expect(result.current).toBe("part");
  });

  it("comes when the connection is back", async () => {
    vi.spyOn(toast, "error").mockReturnValue(0);
    const load = vi.fn<() => Promise<string>>().mockRejectedValueOnce(new Error("offline")).mockResolvedValue("part");
    const later = new Later(load);
    const { result } = renderHook(() => useLater(later, true));
    await settled();
    window.dispatchEvent(new Event("online"));
    await settled();
    expect(result.current).toBe("part");
  });

  it("that nobody waits for comes once somebody is there and there is time, and nothing is said of it", async () => {
    vi.useFakeTimers();
    const told = vi.spyOn(toast, "error");
    const load = vi.fn(() => Promise.reject(new Error("gone")));
    renderHook(() => useLater(new Later(load), false));
    await act(() => vi.advanceTimersByTimeAsync(5000));
    expect(load).not.toHaveBeenCalled();
    window.dispatchEvent(new Event("pointermove"));
    await act(() => vi.advanceTimersByTimeAsync(5000));
    expect(load).toHaveBeenCalledOnce();
    expect(told).not.toHaveBeenCalled();
    vi.useRealTimers();
  });
});
