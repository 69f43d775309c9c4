import { useQuery } from "@tanstack/react-query";
import { listImages, type Image } from "../api/client";

/** What is known of an image on the shelf. */
export function useImage(hash: string): Image | undefined {
  const images = useQuery({ queryKey: ["images"], queryFn: listImages, enabled: hash !== "" });
  return images.data?.find((i) => i.hash === hash);
}
