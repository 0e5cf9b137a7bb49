import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { getDocument } from "pdfjs-dist/legacy/build/pdf.mjs";

/** All text of a PDF, pages joined. */
export async function pdfText(path: string): Promise<{ pages: number; text: string }> {
  const document = await getDocument({ data: new Uint8Array(readFileSync(path)), useSystemFonts: false }).promise;
  const pages = await Promise.all(
    Array.from({ length: document.numPages }, async (_, index) => {
      const content = await (await document.getPage(index + 1)).getTextContent();
      return content.items.map((item) => ("str" in item ? item.str : "")).join(" ");
    }),
  );
  return { pages: pages.length, text: pages.join(" ").replaceAll(/\s+/gu, " ") };
}

/** Saves the report on screen as a PDF and reads it. */
export async function savedPdf(page: Page): Promise<{ pages: number; text: string }> {
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as PDF" }).click();
  return pdfText(await (await download).path());
}
