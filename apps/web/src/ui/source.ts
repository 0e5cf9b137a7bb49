/** A source with its edition: "Workshop book 3". */
export function sourceName({ title, edition }: { readonly title: string; readonly edition?: string | undefined }): string {
  return [title, edition].filter(Boolean).join(" ");
}
