import regular from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url";
import bold from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url";
import cyrillic from "@fontsource/noto-sans/files/noto-sans-cyrillic-400-normal.woff?url";
import cyrillicBold from "@fontsource/noto-sans/files/noto-sans-cyrillic-700-normal.woff?url";
import greek from "@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url";
import greekBold from "@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?url";
import latin from "@fontsource/noto-sans/files/noto-sans-latin-ext-400-normal.woff?url";
import latinBold from "@fontsource/noto-sans/files/noto-sans-latin-ext-700-normal.woff?url";
import { Document, Font, Image, Page, pdf, StyleSheet, Text, View } from "@react-pdf/renderer";
import { isSaid, type Section } from "../../../paper/section";
import type { ReportContent } from "./report-content";

const OWN = "Atkinson Hyperlegible Next";
const PLAIN = "Helvetica";

/** Typefaces for what the own one lacks: signs of units, and names in other alphabets. */
const OTHERS = [
  { family: "Noto Sans Latin", regular: latin, bold: latinBold },
  { family: "Noto Sans Greek", regular: greek, bold: greekBold },
  { family: "Noto Sans Cyrillic", regular: cyrillic, bold: cyrillicBold },
] as const;

const styles = StyleSheet.create({
  page: { padding: 42, fontSize: 10.5, lineHeight: 1.4, color: "#16120b" },
  head: { flexDirection: "row", justifyContent: "space-between", borderBottomWidth: 2, borderBottomColor: "#7c3c00", paddingBottom: 8, marginBottom: 12 },
  // A line height is inherited as it was computed: larger letters need their own.
  shop: { fontSize: 13, fontWeight: 700, lineHeight: 1.35 },
  vehicle: { fontSize: 16, fontWeight: 700, lineHeight: 1.35 },
  soft: { color: "#554b3a" },
  title: { fontSize: 11, fontWeight: 700, color: "#7c3c00", marginTop: 10, marginBottom: 2 },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderTopColor: "#c4b9a2", paddingVertical: 2.5 },
  foot: { position: "absolute", bottom: 22, left: 42, right: 42, fontSize: 8.5, color: "#554b3a", flexDirection: "row", justifyContent: "space-between" },
});
const PHOTO = { width: 160, height: 120, objectFit: "cover" } as const;
const WIDTHS = ["8%", "48%", "19%", "25%"];

/** A line longer than this may be broken between pages, signs. */
const LONG_LINE = 900;

/** Signs the typefaces of a PDF do not have, in letters. */
function plain(text: string): string {
  return text.replaceAll("✓", "+").replaceAll("✕", "x").replaceAll("−", "-").replaceAll("\u202f", " ");
}

/** A line of a block; what belongs together stays on a page. */
function Line({ children }: { children: string }) {
  return (
    <Text style={{ marginBottom: 2 }} wrap={children.length > LONG_LINE}>
      {plain(children)}
    </Text>
  );
}

function Row({ cells, soft = false }: { cells: readonly string[]; soft?: boolean }) {
  return (
    <View style={styles.row} wrap={false}>
      {cells.map((cell, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row never move
        <Text key={index} style={[soft ? styles.soft : {}, { width: WIDTHS[index] ?? "25%", paddingRight: 6 }]}>
          {plain(cell)}
        </Text>
      ))}
    </View>
  );
}

/** A block: its heading stays with what follows it, its records each on one page. */
function Part({ section }: { section: Section }) {
  const { title, lines, columns, rows = [], pictures = [] } = section;
  const heading = (
    <Text style={styles.title} minPresenceAhead={30}>
      {plain(title)}
    </Text>
  );
  const [first, ...rest] = lines;
  return (
    <View>
      {first === undefined ? (
        heading
      ) : (
        <View wrap={first.length > LONG_LINE}>
          {heading}
          <Line>{first}</Line>
        </View>
      )}
      {rest.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two lines may say the same
        <Line key={index}>{line}</Line>
      ))}
      {columns && <Row cells={columns} soft />}
      {rows.map((row) => (
        <Row key={row.join("|")} cells={row} />
      ))}
      <View style={{ flexDirection: "row", flexWrap: "wrap", gap: 8 }}>
        {pictures.map(({ source, caption }) => (
          <View key={source} wrap={false} style={{ width: PHOTO.width }}>
            <Image src={source} style={PHOTO} />
            <Text style={styles.soft}>{plain(caption)}</Text>
          </View>
        ))}
      </View>
    </View>
  );
}

function Sheet({ content, sections, family }: { content: ReportContent; sections: readonly Section[]; family: string[] }) {
  return (
    <Page size={content.paper === "Letter" ? "LETTER" : "A4"} style={[styles.page, { fontFamily: family }]}>
      <View style={styles.head} fixed>
        <View style={{ flexDirection: "row", gap: 8, maxWidth: "58%" }}>
          {content.logo !== null && <Image src={content.logo} style={{ maxHeight: 44, maxWidth: 110, objectFit: "contain" }} />}
          <View>
            <Text style={styles.shop}>{plain(content.shop)}</Text>
            {content.letterhead.map((line) => (
              <Text key={line} style={styles.soft}>
                {plain(line)}
              </Text>
            ))}
            <Text style={styles.soft}>{plain(content.page)}</Text>
          </View>
        </View>
        <View style={{ alignItems: "flex-end", maxWidth: "42%" }}>
          <Text style={styles.vehicle}>{plain(content.vehicle)}</Text>
          <Text style={[styles.soft, { textAlign: "right" }]}>{plain(content.vehicleDetails)}</Text>
        </View>
      </View>
      {sections.filter(isSaid).map((section) => (
        <Part key={section.title} section={section} />
      ))}
      <View style={styles.foot} fixed>
        <Text>{plain(content.page)}</Text>
        <Text render={({ pageNumber, totalPages }) => `${pageNumber} / ${totalPages}`} />
      </View>
    </Page>
  );
}

/** A report without the signs that only the own typefaces have. */
function inLetters(content: ReportContent): ReportContent {
  return JSON.parse(JSON.stringify(content).replaceAll("Ω", "ohm").replaceAll("μ", "u"));
}

/** Whether a typeface can be loaded: a broken one must not lose the report. */
async function loads(address: string): Promise<boolean> {
  const signature = await fetch(address)
    .then((answer) => (answer.ok ? answer.arrayBuffer() : new ArrayBuffer(0)))
    .then((content) => new TextDecoder("latin1").decode(content.slice(0, 4)))
    .catch(() => "");
  return signature === "wOFF";
}

/**
 * A report as a PDF: the customer's page, then the technicians'.
 * @returns the file, and whether a plain typeface had to serve
 */
export async function reportPdf(asTyped: ReportContent): Promise<{ file: Blob; plainFont: boolean }> {
  const all = [regular, bold, ...OTHERS.flatMap((one) => [one.regular, one.bold])];
  const own = (await Promise.all(all.map(loads))).every(Boolean);
  if (own) {
    for (const { family, ...faces } of [{ family: OWN, regular, bold }, ...OTHERS]) {
      Font.register({
        family,
        fonts: [
          { src: faces.regular, fontWeight: 400 },
          { src: faces.bold, fontWeight: 700 },
        ],
      });
    }
    // Words stay whole: a broken unit or part number is read wrongly.
    Font.registerHyphenationCallback((word) => [word]);
  }
  const write = (content: ReportContent, family: string[]): Promise<Blob> =>
    pdf(
      <Document title={`${content.shop}, ${content.page}`} author={content.shop} creator="Fox Lamp">
        <Sheet content={content} sections={content.customer} family={family} />
        <Sheet content={content} sections={content.technical} family={family} />
      </Document>,
    ).toBlob();
  if (own) {
    try {
      return { file: await write(asTyped, [OWN, ...OTHERS.map(({ family }) => family)]), plainFont: false };
    } catch {
      // The plain one is always there.
    }
  }
  return { file: await write(inLetters(asTyped), [PLAIN]), plainFont: true };
}
