import type { ToolDocument } from "../../model/tool";

/** It lays an even film and no powder. */
export const laysFilm = ({ action, parameters }: ToolDocument) =>
  action === "lay" && parameters["ground.enters"] !== "contact" && (parameters["load.film"] ?? "none") !== "none";
