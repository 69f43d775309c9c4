import { expect, test } from "vitest";
import { layOut, scaleSaid } from "./sheetSize";

const CSS_MM = 96 / 25.4;

test("strips fill what there is, keep their shape and leave none out", () => {
  for (const width of [320, 520, 824, 1464, 2400]) {
    for (const columns of [2, 3]) {
      const { strip, stacked } = layOut({ width, height: 640 }, 6, columns, "fit", CSS_MM);
      expect(Math.abs(strip.height - (strip.width * 14) / 80)).toBeLessThanOrEqual(stacked || strip.height > 46 ? 1 : 46);
      expect(stacked ? strip.width : 124 + columns * (strip.width + 10)).toBeLessThanOrEqual(width);
    }
  }
  // A phone stacks them; a laptop does not.
  expect(layOut({ width: 340, height: 640 }, 6, 2, "fit", CSS_MM).stacked).toBe(true);
  expect(layOut({ width: 824, height: 460 }, 6, 3, "fit", CSS_MM).stacked).toBe(false);
  // All seven rows are in sight where there is room for them.
  expect(7 * (layOut({ width: 1464, height: 640 }, 6, 2, "fit", CSS_MM).strip.height + 5) + 26).toBeLessThanOrEqual(640);
});

test("true size is that of the screen", () => {
  // 80 mm on a screen of 4 pixels a millimetre.
  expect(layOut({ width: 824, height: 460 }, 6, 2, 1, 4).strip).toEqual({ width: 320, height: 56 });
  // A pen's buttons take room from the strips, not from each other.
  expect(layOut({ width: 824, height: 460 }, 6, 2, "fit", 4, true).strip.height).toBeLessThan(layOut({ width: 824, height: 460 }, 6, 2, "fit", 4).strip.height);
  expect(layOut({ width: 824, height: 460 }, 6, 2, 3, 4).strip.width).toBe(960);
  expect(scaleSaid(320, 4)).toBe("true size");
  expect(scaleSaid(392, 4)).toBe("1.2 × true size");
});
