import { expect, test } from "vitest";
import { OTHER_END, TIP, claim, type Claim } from "./claims";

const pen = (id = 1, button = TIP) => ({ id, kind: "pen" as const, button });
const touch = (id = 2) => ({ id, kind: "touch" as const, button: TIP });
const mouse = (button = TIP) => ({ id: 3, kind: "mouse" as const, button });
const by = (kind: Claim["kind"], id = 9): Claim => ({ id, kind });

test("a pen draws at once, instead of whatever else was drawing", () => {
  for (const fingers of [true, false]) {
    expect(claim(null, pen(), fingers, true)).toBe("draws");
    expect(claim(null, pen(1, OTHER_END), fingers, true)).toBe("draws");
    expect(claim(by("touch"), pen(), fingers, true)).toBe("instead");
    expect(claim(by("mouse"), pen(), fingers, false)).toBe("instead");
    expect(claim(by("played"), pen(), fingers, false)).toBe("instead");
  }
  expect(claim(by("pen"), pen(2), true, true)).toBe("no");
  expect(claim(null, pen(1, 2), true, true)).toBe("no");
});

test("a touch draws only where fingers do, alone, and with no pen near", () => {
  expect(claim(null, touch(), true, false)).toBe("draws");
  expect(claim(null, touch(), true, true)).toBe("no");
  expect(claim(null, touch(), false, false)).toBe("no");
  expect(claim(by("pen"), touch(), true, true)).toBe("no");
  expect(claim(by("touch"), touch(5), true, false)).toBe("no");
});

test("a mouse draws with its first button alone", () => {
  expect(claim(null, mouse(), false, false)).toBe("draws");
  expect(claim(null, mouse(2), false, false)).toBe("no");
  expect(claim(by("pen"), mouse(), false, true)).toBe("no");
});
