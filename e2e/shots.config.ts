import { defineConfig } from "@playwright/test";
import { chromium } from "./playwright.config";

export default defineConfig({ testDir: "shots", outputDir: "results", workers: 1, timeout: 120_000, expect: { timeout: 30_000 }, reporter: "list", use: chromium });
