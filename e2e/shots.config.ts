import { defineConfig } from "@playwright/test";
import { chromium } from "./playwright.config";
import { DEMO_ROWS } from "./server";

export default defineConfig<{ rows: string[] }>({ testDir: "shots", outputDir: "results", workers: 1, timeout: 120_000, expect: { timeout: 30_000 }, reporter: "list", use: { ...chromium, rows: DEMO_ROWS } });
