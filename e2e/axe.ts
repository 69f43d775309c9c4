/** Axe in the page itself: a page beside it for every look would cost more than the look. */

import { readFileSync } from "node:fs";
import { createRequire } from "node:module";
import type axe from "axe-core";
import { expect, type Page } from "@playwright/test";

/** The dark theme changes colours and nothing else: what goes by them is looked at there. */
const RULES = {
  light: { type: "tag", values: ["wcag2a", "wcag2aa", "wcag21aa", "wcag22aa", "best-practice"] },
  dark: { type: "rule", values: ["color-contrast", "link-in-text-block"] },
} as const;

const AXE = readFileSync(createRequire(import.meta.url).resolve("axe-core/axe.min.js"), "utf8");

/** Holds the page, or what lies `within` one of its parts, to be without violations in both themes. */
export const looker = (page: Page) => async (where: string, within = "html") => {
  const told = await page.evaluate(
    async ([source, within, rules]) => {
      const there = window as unknown as { axe?: typeof axe };
      if (!there.axe) new Function(source)();
      const root = document.documentElement;
      const was = root.dataset.theme;
      const violations: string[] = [];
      for (const theme of ["light", "dark"] as const) {
        root.dataset.theme = theme;
        const found = await there.axe?.run({ include: [within] }, { runOnly: { ...rules[theme], values: [...rules[theme].values] }, resultTypes: ["violations"] });
        if (!found) throw new Error("axe did not come");
        violations.push(...found.violations.map((v) => `${theme}, ${v.id}: ${v.nodes.map((n) => `${n.html} ${n.failureSummary}`).join(" | ")}`));
      }
      root.dataset.theme = was;
      return violations;
    },
    [AXE, within, RULES] as const,
  );
  expect(told, where).toEqual([]);
};
