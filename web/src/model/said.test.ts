import i18next from "i18next";
import { afterAll, expect, test } from "vitest";
import { declaredIn, worded } from "./said";

const declared = { media: [{ medium: "dry", label: "Dry", parameters: [{ id: "load.film", label: "Film", help: "One even layer.", options: [["side", "Side"]], low: 0 }] }] };

test("a sentence of the core, the phrases in it and its numbers are each said by themselves", () => {
  const sentence = {
    text: "{{head}} Because of {{most}}.",
    values: { head: { text: "{{tone}}, covers {{covered}} %.", values: { tone: { text: "broken", values: {} }, covered: { number: 42.6, digits: 0 } } }, most: { text: "flow", values: {} } },
  };
  expect(worded(sentence)).toBe("broken, covers 43 %. Because of flow.");
  i18next.addResourceBundle(i18next.language, "translation", { "{{tone}}, covers {{covered}} %.": "{{covered}} % bedeckt, {{tone}}.", broken: "gebrochen", flow: "Fluss", "{{head}} Because of {{most}}.": "{{head}} Es liegt an: {{most}}." });
  expect(worded(sentence)).toBe("43 % bedeckt, gebrochen. Es liegt an: Fluss.");
  i18next.removeResourceBundle("en", "translation");
});

afterAll(() => void i18next.removeResourceBundle("en", "translation"));

test("labels and explanations of the core go through the catalogue, and nothing else does", () => {
  expect(declaredIn(declared)).toEqual(declared);
  i18next.addResourceBundle(i18next.language, "translation", { Dry: "Trocken", Film: "Lasur", "One even layer.": "Eine gleichmäßige Schicht.", dry: "wrong", side: "wrong", Side: "Breitseite" });
  const [medium] = declaredIn(declared).media;
  expect(medium?.label).toBe("Trocken");
  expect(medium?.medium).toBe("dry");
  expect(medium?.parameters[0]).toEqual({ ...declared.media[0]?.parameters[0], label: "Lasur", options: [["side", "Breitseite"]], help: "Eine gleichmäßige Schicht." });
});
