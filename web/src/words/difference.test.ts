import { expect, test } from "vitest";
import { seen, told } from "./difference";

/** White ground with a band of grey over its lower `share`; every `gap`th column bare. */
function picture(share: number, grey: number, gap = 0) {
  const [width, height] = [40, 40];
  const rgba = new Uint8Array(4 * width * height).fill(255);
  for (let y = Math.round((1 - share) * height); y < height; y++) {
    for (let x = 0; x < width; x++) if (!gap || x % gap !== 0) rgba.fill(grey, 4 * (y * width + x), 4 * (y * width + x) + 3);
  }
  return seen(rgba, width);
}

test("what differs is told, and nothing that is not seen", () => {
  expect(told(picture(0.5, 120), picture(0.5, 60))).toBe("darker");
  expect(told(picture(0.3, 120), picture(0.6, 120))).toBe("darker, over more of the sheet");
  expect(told(picture(0.5, 120), picture(0.5, 120, 2))).toBe("lighter, over less of the sheet, rougher");
  expect(told(picture(0.5, 120), picture(0.5, 121))).toBe("");
});
