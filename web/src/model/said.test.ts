import i18next from "i18next";
import { afterAll, expect, test } from "vitest";
import { declaredIn } from "./said";

const declared = { media: [{ medium: "dry", label: "Dry", parameters: [{ id: "load.film", label: "Film", help: "One even layer.", options: [["side", "Side"]], low: 0 }] }] };

afterAll(() => void i18next.removeResourceBundle("en", "translation"));

test("labels and explanations of the core go through the catalogue, and nothing else does", () => {
  expect(declaredIn(declared)).toEqual(declared);
  i18next.addResourceBundle(i18next.language, "translation", { Dry: "Trocken", Film: "Lasur", "One even layer.": "Eine gleichmäßige Schicht.", dry: "wrong", side: "wrong", Side: "Breitseite" });
  const [medium] = declaredIn(declared).media;
  expect(medium?.label).toBe("Trocken");
  expect(medium?.medium).toBe("dry");
  expect(medium?.parameters[0]).toEqual({ ...declared.media[0]?.parameters[0], label: "Lasur", options: [["side", "Breitseite"]], help: "Eine gleichmäßige Schicht." });
});
