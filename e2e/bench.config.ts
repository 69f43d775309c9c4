import { defineConfig } from "@playwright/test";
import { chromium } from "./playwright.config";
import { DEMO_ROWS } from "./server";

export default defineConfig<{ rows: string[] }>({ testDir: "measure", outputDir: "results", workers: 1, timeout: 600_000, expect: { timeout: 60_000 }, reporter: "list", use: { ...chromium, rows: DEMO_ROWS } });
