import { BadInput } from "@fox-lamp/language";
import type { Capture } from "../capture";
import { evenly } from "./even";
import { type CaptureColumn, type CaptureLayout, captureLayout } from "./layout";

/** Bytes of a file that are looked at for its layout. */
const HEAD_BYTES = 65_536;
/** More rows than this are refused. */
export const MOST_ROWS = 20_000_000;
const FIRST_ROWS = 65_536;
/** So many digits make a whole number of 32 bits, whatever they are. */
const PLAIN_DIGITS = 9;
const POWERS = Float64Array.from({ length: 23 }, (_, exponent) => 10 ** exponent);

const [TAB, LF, CR, SPACE, QUOTE, HASH, PERCENT, PLUS, COMMA, MINUS, DOT, ZERO, NINE, SEMICOLON] = [
  9, 10, 13, 32, 34, 35, 37, 43, 44, 45, 46, 48, 57, 59,
] as const;

/** What a person says about columns that a file does not name, or names otherwise: by column, from 0; null leaves one out. */
export type ColumnChoice = ReadonlyMap<number, { readonly name: string; readonly unit?: string } | null>;

export interface ReadOptions {
  readonly columns?: ColumnChoice;
  /** Samples a second, where the file has neither time nor rate. */
  readonly rate?: number | undefined;
  /** The column of time in seconds, from 0, where the file does not say which. */
  readonly time?: number | undefined;
}

/** A capture with what had to be mended while it was read. */
export interface ReadCapture {
  readonly capture: Capture;
  readonly notes: readonly string[];
}

/**
 * Reads a capture from CSV as its bytes come: the head by a CSV library, the rows of numbers by a scanner of their own, which makes
 * nothing but the numbers. {@link CaptureReader.push} takes pieces of any size; {@link CaptureReader.finish} gives the capture.
 */
export class CaptureReader {
  private rest: Uint8Array = new Uint8Array(0);
  private layout: CaptureLayout | null = null;
  private columns: readonly CaptureColumn[] = [];
  /** Where a cell's number goes: -2 nowhere, -1 time, else a channel. */
  private targets = new Int32Array(0);
  private last = 0;
  private lines = 0;
  private rows = 0;
  private room = 0;
  private seconds = new Float64Array(0);
  private values: Float32Array[] = [];
  private readonly notes: string[] = [];

  constructor(private readonly options: ReadOptions = {}) {}

  /** Rows read so far. */
  get count(): number {
    return this.rows;
  }

  /** Takes the next bytes. @throws BadInput for damage, with its line and column */
  push(bytes: Uint8Array): void {
    let all = bytes;
    if (this.rest.length > 0) {
      all = new Uint8Array(this.rest.length + bytes.length);
      all.set(this.rest);
      all.set(bytes, this.rest.length);
    }
    if (this.layout === null) {
      if (all.length < HEAD_BYTES) {
        this.rest = all;
        return;
      }
      this.begin(all);
      all = all.subarray((this.layout as CaptureLayout | null)?.headBytes ?? 0);
    }
    let end = all.length;
    while (end > 0 && all[end - 1] !== LF) end -= 1;
    // Line ends of returns alone: the last byte may be half of a Windows line end.
    if (end === 0) for (end = all.length - 1; end > 0 && all[end - 1] !== CR; ) end -= 1;
    this.scan(all, end, false);
    this.rest = all.slice(end);
  }

  /** Ends the file. @throws BadInput for damage, or where nothing was in it */
  finish(): ReadCapture {
    let all = this.rest;
    if (this.layout === null) {
      this.begin(all);
      all = all.subarray((this.layout as CaptureLayout | null)?.headBytes ?? 0);
    }
    this.scan(all, all.length, true);
    const layout = this.layout as CaptureLayout | null;
    if (layout === null || this.rows < 2) {
      throw new BadInput({ code: "capture:short", where: "", message: `there are ${this.rows} rows of numbers; expected two at least` });
    }
    const values = this.values.map((channel) => channel.subarray(0, this.rows));
    const stated = this.options.rate ?? layout.rate;
    const time = layout.time === null ? null : this.seconds.subarray(0, this.rows);
    const even = evenly(time, values, stated, layout.firstLine);
    return {
      capture: {
        start: even.start,
        rate: even.rate,
        channels: this.columns.map(({ title, unit }, index) => ({ name: title, unit, samples: even.channels[index] as Float32Array })),
      },
      notes: [...this.notes, ...even.notes],
    };
  }

  private begin(all: Uint8Array): void {
    const layout = captureLayout(all.subarray(0, HEAD_BYTES), this.options);
    const chosen = this.options.columns;
    this.layout = layout;
    this.columns = layout.channels.flatMap((one) => {
      const choice = chosen?.get(one.index);
      if (choice === null) return [];
      return choice === undefined ? [one] : [{ ...one, title: choice.name, unit: choice.unit ?? one.unit }];
    });
    if (this.columns.length === 0)
      throw new BadInput({ code: "capture:no-channels", where: "", message: "every column is left out; expected one channel at least" });
    const titles = this.columns.map(({ title }) => title);
    const twice = titles.find((title, index) => titles.indexOf(title) !== index);
    if (twice !== undefined) {
      throw new BadInput({ code: "capture:twice", where: `column ${twice}`, message: "stands over two columns; expected a name of its own for every channel" });
    }
    const width = Math.max(layout.time?.index ?? 0, ...layout.channels.map(({ index }) => index)) + 1;
    this.targets = new Int32Array(width).fill(-2);
    if (layout.time !== null) this.targets[layout.time.index] = -1;
    this.columns.forEach(({ index }, channel) => {
      this.targets[index] = channel;
    });
    this.last = Math.max(layout.time?.index ?? 0, ...this.columns.map(({ index }) => index));
    this.lines = layout.firstLine - 1;
    this.grow(FIRST_ROWS);
  }

  private grow(room: number): void {
    const [seconds, values] = [this.seconds, this.values];
    this.seconds = new Float64Array(this.layout?.time === null ? 0 : room);
    this.seconds.set(seconds);
    this.values = this.columns.map((_, index) => {
      const more = new Float32Array(room);
      const old = values[index];
      if (old !== undefined) more.set(old);
      return more;
    });
    this.room = room;
  }

  /** Reads whole lines up to `end`. */
  private scan(bytes: Uint8Array, end: number, final: boolean): void {
    let at = 0;
    while (at < end) {
      const byte = bytes[at] as number;
      if (byte === LF || byte === CR) {
        // Both bytes of a Windows line end are one.
        if (byte === CR && bytes[at + 1] === LF) at += 1;
        at += 1;
        this.lines += 1;
        continue;
      }
      if (byte === HASH || byte === PERCENT) {
        while (at < end && bytes[at] !== LF && bytes[at] !== CR) at += 1;
        if (at >= end) this.lines += 1;
        continue;
      }
      at = this.row(bytes, at, end, final);
    }
  }

  /** What {@link plainCell} read. */
  private plainValue = 0;

  /**
   * Reads a cell of a sign, digits and a point that ends with a separator or its line, in whole numbers that need no rounding.
   * @returns the place after it; -1 for any other cell, which is read from its beginning
   */
  private plainCell(bytes: Uint8Array, from: number, end: number, delimiter: number, mark: number): number {
    // A cell that runs into the end of what is there, or may, is not plain.
    if (delimiter === SPACE || from + PLAIN_DIGITS + 3 >= end) return -1;
    let at = from;
    let byte = bytes[at] as number;
    const negative = byte === MINUS;
    if (negative) {
      at += 1;
      byte = bytes[at] as number;
    }
    const begins = at;
    let mantissa = 0;
    while (byte >= ZERO && byte <= NINE && at - begins < PLAIN_DIGITS) {
      mantissa = (mantissa * 10 + byte - ZERO) | 0;
      at += 1;
      byte = bytes[at] as number;
    }
    let digits = at - begins;
    let decimals = 0;
    if (byte === mark) {
      at += 1;
      byte = bytes[at] as number;
      const point = at;
      while (byte >= ZERO && byte <= NINE && digits + at - point < PLAIN_DIGITS) {
        mantissa = (mantissa * 10 + byte - ZERO) | 0;
        at += 1;
        byte = bytes[at] as number;
      }
      decimals = at - point;
      digits += decimals;
    }
    if (digits === 0 || !(byte === delimiter || byte === LF || byte === CR)) return -1;
    const size = decimals === 0 ? mantissa : mantissa / (POWERS[decimals] as number);
    this.plainValue = negative ? -size : size;
    return at;
  }

  /** Reads one row; gives the place of its line end. */
  private row(bytes: Uint8Array, begin: number, end: number, final: boolean): number {
    if (this.rows >= MOST_ROWS) {
      throw new BadInput({
        code: "capture:long",
        where: `line ${this.lines + 1}`,
        message: `there are more than ${MOST_ROWS / 1e6} million rows; expected a shorter capture or a lower rate`,
      });
    }
    if (this.rows === this.room) this.grow(Math.min(MOST_ROWS, 2 * this.room));
    const layout = this.layout as CaptureLayout;
    const delimiter = layout.delimiter.charCodeAt(0);
    const mark = layout.decimal === "," ? COMMA : DOT;
    const { targets, rows, values, seconds, columns } = this;
    const width = targets.length;
    let at = begin;
    let cell = 0;
    let blank = true;
    for (;;) {
      // The usual cell is a sign, a few digits and a point: that is read without asking for anything else.
      const plain = cell < width ? this.plainCell(bytes, at, end, delimiter, mark) : -1;
      if (plain >= 0) {
        blank = false;
        const target = targets[cell] as number;
        if (target === -1) seconds[rows] = this.plainValue * (layout.time?.factor ?? 1);
        else if (target >= 0) (values[target] as Float32Array)[rows] = this.plainValue * (columns[target]?.factor ?? 1);
        cell += 1;
        at = plain;
        if (bytes[at] !== delimiter) break;
        at += 1;
        continue;
      }
      // Any other: spaces, quotes, sign, digits, exponent.
      while (at < end && (bytes[at] === SPACE || bytes[at] === QUOTE || (bytes[at] === TAB && delimiter !== TAB))) at += 1;
      const from = at;
      let negative = false;
      let byte = at < end ? (bytes[at] as number) : LF;
      if (byte === MINUS || byte === PLUS) {
        negative = byte === MINUS;
        at += 1;
        byte = at < end ? (bytes[at] as number) : LF;
      }
      let [mantissa, digits, decimals, exponent] = [0, 0, 0, 0];
      while (byte >= ZERO && byte <= NINE) {
        mantissa = mantissa * 10 + (byte - ZERO);
        digits += 1;
        at += 1;
        byte = at < end ? (bytes[at] as number) : LF;
      }
      if (byte === mark) {
        at += 1;
        byte = at < end ? (bytes[at] as number) : LF;
        while (byte >= ZERO && byte <= NINE) {
          // More digits than a number holds change nothing.
          if (mantissa < 9e14) {
            mantissa = mantissa * 10 + (byte - ZERO);
            decimals += 1;
          }
          digits += 1;
          at += 1;
          byte = at < end ? (bytes[at] as number) : LF;
        }
      }
      if (digits > 0 && (byte === 69 || byte === 101)) {
        at += 1;
        byte = at < end ? (bytes[at] as number) : LF;
        const down = byte === MINUS;
        if (down || byte === PLUS) {
          at += 1;
          byte = at < end ? (bytes[at] as number) : LF;
        }
        const begins = at;
        while (byte >= ZERO && byte <= NINE) {
          exponent = exponent * 10 + (byte - ZERO);
          at += 1;
          byte = at < end ? (bytes[at] as number) : LF;
        }
        if (at === begins) digits = 0;
        if (down) exponent = -exponent;
      }
      while ((byte === SPACE && delimiter !== SPACE) || byte === QUOTE || (byte === TAB && delimiter !== TAB)) {
        at += 1;
        byte = at < end ? (bytes[at] as number) : LF;
      }
      const ends = byte === LF || byte === CR;
      const target = cell < width ? (targets[cell] as number) : -2;
      if (digits > 0 && (ends || byte === delimiter)) {
        blank = false;
        if (target !== -2) {
          const power = exponent - decimals;
          const size =
            power < 0
              ? power >= -22
                ? mantissa / (POWERS[-power] as number)
                : mantissa * 10 ** power
              : mantissa * (power <= 22 ? (POWERS[power] as number) : 10 ** power);
          const value = negative ? -size : size;
          if (target === -1) seconds[rows] = value * (layout.time?.factor ?? 1);
          else (values[target] as Float32Array)[rows] = value * (columns[target]?.factor ?? 1);
        }
      } else if (!(at === from && (ends || byte === delimiter) && target === -2)) {
        if (blank && at === from && ends && cell === 0) return this.lineEnd(at, end);
        return this.damaged(bytes, begin, from, end, cell, final);
      }
      cell += 1;
      if (ends) break;
      at += 1;
      if (at >= end && delimiter !== SPACE) break;
      if (delimiter === SPACE && (at >= end || bytes[at] === LF || bytes[at] === CR)) break;
    }
    if (cell <= this.last) {
      if (final && at >= end) {
        this.notes.push(`line ${this.lines + 1} is cut off and was left out`);
        this.lines += 1;
        return end;
      }
      throw new BadInput({
        code: "capture:short-row",
        where: `line ${this.lines + 1}`,
        message: `has ${cell} values; expected ${this.last + 1}`,
      });
    }
    this.rows += 1;
    return this.lineEnd(at, end);
  }

  private lineEnd(at: number, end: number): number {
    if (at >= end) this.lines += 1;
    return at;
  }

  /** Says what is wrong with a cell; a last line that ends in the middle is left out. */
  private damaged(bytes: Uint8Array, begin: number, from: number, end: number, cell: number, final: boolean): number {
    const delimiter = this.layout?.delimiter.charCodeAt(0) ?? SEMICOLON;
    let to = begin;
    while (to < end && (bytes[to] === delimiter || bytes[to] === SPACE)) to += 1;
    // A line of separators alone is an empty line.
    if (to >= end || bytes[to] === LF || bytes[to] === CR) return this.lineEnd(to, end);
    to = from;
    while (to < end && bytes[to] !== LF && bytes[to] !== CR && bytes[to] !== delimiter) to += 1;
    if (final && to >= end && this.rows > 0 && from < end) {
      this.notes.push(`line ${this.lines + 1} is cut off and was left out`);
      this.lines += 1;
      return end;
    }
    const text = new TextDecoder().decode(bytes.subarray(from, Math.min(to, from + 24))).trim();
    const target = this.targets[cell] ?? -2;
    const name = target === -1 ? (this.layout?.time?.title ?? "time") : (this.columns[target]?.title ?? `${cell + 1}`);
    throw new BadInput({
      code: "capture:not-a-number",
      where: `line ${this.lines + 1}, column ${name}`,
      message: text === "" ? "is empty; expected a number" : `"${text}" is not a number`,
    });
  }
}

/** Reads a whole file at once. @throws BadInput as {@link CaptureReader} does */
export function readCaptureCsv(bytes: Uint8Array, options: ReadOptions = {}): ReadCapture {
  const reader = new CaptureReader(options);
  reader.push(bytes);
  return reader.finish();
}
