import regular from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-400-normal.woff?url";
import bold from "@fontsource/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-700-normal.woff?url";
import greek from "@fontsource/noto-sans/files/noto-sans-greek-400-normal.woff?url";
import greekBold from "@fontsource/noto-sans/files/noto-sans-greek-700-normal.woff?url";
import { Document, Font, Page, pdf, StyleSheet, Text, View } from "@react-pdf/renderer";
import type { ReportContent, Section } from "./report-content";

const OWN = "Atkinson Hyperlegible Next";
/** Has the signs of units that the own typeface lacks: Ω and μ. */
const SIGNS = "Noto Sans Greek";
const PLAIN = "Helvetica";

const styles = StyleSheet.create({
  page: { padding: 42, fontSize: 10.5, lineHeight: 1.4, color: "#16120b" },
  head: { flexDirection: "row", justifyContent: "space-between", borderBottomWidth: 2, borderBottomColor: "#7c3c00", paddingBottom: 8, marginBottom: 12 },
  shop: { fontSize: 13, fontWeight: 700 },
  vehicle: { fontSize: 16, fontWeight: 700 },
  soft: { color: "#554b3a" },
  title: { fontSize: 11, fontWeight: 700, color: "#7c3c00", marginTop: 10, marginBottom: 2 },
  row: { flexDirection: "row", borderTopWidth: 0.5, borderTopColor: "#c4b9a2", paddingVertical: 2.5 },
  foot: { position: "absolute", bottom: 22, left: 42, right: 42, fontSize: 8.5, color: "#554b3a", flexDirection: "row", justifyContent: "space-between" },
});
const WIDTHS = ["8%", "48%", "19%", "25%"];

/** Signs the typefaces of a PDF do not have, in letters. */
function plain(text: string): string {
  return text.replaceAll("✓", "+").replaceAll("✕", "x").replaceAll("−", "-").replaceAll("\u202f", " ");
}

function Part({ section }: { section: Section }) {
  return (
    <View>
      <Text style={styles.title} minPresenceAhead={30}>
        {plain(section.title)}
      </Text>
      {section.lines.map((line) => (
        <Text key={line} style={{ marginBottom: 2 }}>
          {plain(line)}
        </Text>
      ))}
      {section.columns && (
        <View style={styles.row}>
          {section.columns.map((column, index) => (
            <Text key={column} style={[styles.soft, { width: WIDTHS[index] ?? "25%", paddingRight: 6 }]}>
              {plain(column)}
            </Text>
          ))}
        </View>
      )}
      {(section.rows ?? []).map((row) => (
        <View key={row.join("|")} style={styles.row} wrap={false}>
          {row.map((cell, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row never move
            <Text key={index} style={{ width: WIDTHS[index] ?? "25%", paddingRight: 6 }}>
              {plain(cell)}
            </Text>
          ))}
        </View>
      ))}
    </View>
  );
}

function Sheet({ content, sections, family }: { content: ReportContent; sections: readonly Section[]; family: string[] }) {
  return (
    <Page size="A4" style={[styles.page, { fontFamily: family }]}>
      <View style={styles.head} fixed>
        <View>
          <Text style={styles.shop}>{plain(content.shop)}</Text>
          <Text style={styles.soft}>{plain(content.page)}</Text>
        </View>
        <View style={{ alignItems: "flex-end" }}>
          <Text style={styles.vehicle}>{plain(content.vehicle)}</Text>
          <Text style={styles.soft}>{plain(content.vehicleDetails)}</Text>
        </View>
      </View>
      {sections.map((section) => (
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
  const own = (await Promise.all([regular, bold, greek, greekBold].map(loads))).every(Boolean);
  if (own) {
    Font.register({
      family: OWN,
      fonts: [
        { src: regular, fontWeight: 400 },
        { src: bold, fontWeight: 700 },
      ],
    });
    Font.register({
      family: SIGNS,
      fonts: [
        { src: greek, fontWeight: 400 },
        { src: greekBold, fontWeight: 700 },
      ],
    });
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
      return { file: await write(asTyped, [OWN, SIGNS]), plainFont: false };
    } catch {
      // The plain one is always there.
    }
  }
  return { file: await write(inLetters(asTyped), [PLAIN]), plainFont: true };
}
