/** @jest-environment jsdom */
import { readdirSync, readFileSync } from "node:fs";
import { resolve } from "node:path";
import { CALCULATORS, calculate, FAMILIES, fromShownUnit } from "@fox-lamp/core";
import { cleanup, fireEvent, render, screen } from "@testing-library/react";
import { MemoryRouter } from "react-router";
import { isDrawn, Live } from "./blocks";
import { CardBody } from "./CardBody";
import { blockIn, blocksOf, type Figure, figureIn, figuresOf, findCards, readCard } from "./cards";

const FOLDER = resolve(__dirname, "../../../../cards");
const CARDS = readdirSync(FOLDER).map((name) => readCard(name.replace(/\.md$/u, ""), readFileSync(resolve(FOLDER, name), "utf8")));

/** What the core computes for a figure, in the base unit. */
function computed({ calculator: id, asked, given }: Figure): { value: number; unit: string } {
  const calculator = CALCULATORS.find((one) => one.id === id);
  if (calculator === undefined) throw new Error(`no calculator "${id}"`);
  const field = calculator.fields.find((one) => one.id === asked);
  const open = field ?? calculator.fields.find((one) => given[one.id] === undefined);
  const answer = calculate(calculator, given);
  if (!answer.ok) throw new Error(`${id}: ${answer.problem.message}`);
  if (field !== undefined) {
    expect(answer.answer.field).toBe(asked);
    return { value: answer.answer.value, unit: field.unit };
  }
  const also = answer.answer.also.find(({ title }) => title.toLowerCase() === asked);
  if (also === undefined) throw new Error(`${id} (asked for ${open?.id}) gives no "${asked}"`);
  return also;
}

/** A figure as it stands in the text: its number, its unit, and half of its last place. */
function written(text: string): { value: number; unit: string; half: number } {
  const [number = "", unit = ""] = text.split(" ");
  const decimals = number.split(".")[1]?.length ?? 0;
  return { value: Number(number), unit, half: 0.5 * 10 ** -decimals };
}

describe("cards", () => {
  it("there is one for every technique, every family, and the rest of the house", () => {
    const ids = CARDS.map(({ id }) => id);
    for (const technique of ["1", "1b", ...Array.from({ length: 14 }, (_, index) => `${index + 2}`)]) expect(ids).toContain(`t${technique}`);
    for (const { id } of FAMILIES) expect(ids).toContain(`family-${id}`);
    expect(CARDS.filter(({ group }) => group === "school").length).toBeGreaterThanOrEqual(10);
  });
  it.each(CARDS.map((card) => [card.id, card] as const))("%s: renders, its blocks live, its links lead to cards and pages", (_id, card) => {
    render(
      <MemoryRouter>
        <CardBody card={card} circuit={null} search="" />
      </MemoryRouter>,
    );
    expect(document.body.textContent).not.toContain("```");
    expect(document.querySelectorAll("figure").length).toBe(blocksOf(card).length);
    for (const figure of document.querySelectorAll("figure")) expect(figure.querySelector("input[type=range]")).not.toBeNull();
    for (const link of document.querySelectorAll("a")) {
      const [, room, name] = (link.getAttribute("href") ?? "").split(/[/?]/u);
      if (room === "cards") expect(CARDS.map(({ id }) => id)).toContain(name);
      else expect(["calculators", "settings"]).toContain(room);
    }
    for (const block of blocksOf(card)) if (block.kind === "drawn") expect(isDrawn(block.name)).toBe(true);
    cleanup();
  });
  it.each(CARDS.flatMap((card) => figuresOf(card).map((figure) => [card.id, figure.text, figure] as const)))(
    "%s: %s is what the core computes",
    (_id, _text, figure) => {
      const { value, unit } = computed(figure);
      const said = written(figure.text);
      const base = said.unit === "milliohm" ? said.value / 1000 : said.unit === unit ? said.value : fromShownUnit(said.value, unit, said.unit);
      const half = said.unit === "milliohm" ? said.half / 1000 : said.half;
      expect(Math.abs(base - value)).toBeLessThanOrEqual(half * 1.0001);
    },
  );
});

it("a card without a head, a title or a group is refused by name", () => {
  expect(() => readCard("x", "text")).toThrow("x: expected a head");
  expect(() => readCard("x", "---\ngroup: method\n---\ntext")).toThrow("x: has no title");
  expect(() => readCard("x", "---\ntitle: X\ngroup: other\n---\ntext")).toThrow('x: "other" is no group');
  expect(() => blockIn("nothing")).toThrow("is no live block");
  expect(figureIn("sig@sensor")).toBeNull();
});

it("cards are found by words anywhere, the title first", () => {
  expect(findCards(CARDS, "unplug watch")[0]?.id).toBe("t5");
  expect(findCards(CARDS, "piezo").map(({ id }) => id)).toEqual(expect.arrayContaining(["family-knock-1w", "family-knock-2w", "school-resistance"]));
  expect(findCards(CARDS, "carburettor jets")).toEqual([]);
});

describe("live blocks", () => {
  const live = (text: string, circuit: Parameters<typeof Live>[0]["circuit"] = null) =>
    render(
      <MemoryRouter>
        <Live block={blockIn(text)} circuit={circuit} />
      </MemoryRouter>,
    );
  const move = (label: string, value: number): void => {
    fireEvent.change(screen.getByLabelText(label), { target: { value: String(value) } });
  };
  it("an averaging meter follows duty and levels", () => {
    live("block averaging");
    // 0.1 + 10 % of 4.9.
    expect(screen.getByText("0.59 V")).toBeTruthy();
    move("Share of the time high", 50);
    expect(screen.getByText("2.55 V")).toBeTruthy();
    move("High level", 12);
    expect(screen.getByText("6.05 V")).toBeTruthy();
    cleanup();
  });
  it("a hidden resistance shows with a load and not without", () => {
    live("block hidden");
    expect(screen.getByText("12 V")).toBeTruthy();
    // 12 x 48 / 68 and 10 x 70 / 90.
    expect(screen.getByText("8.471 V")).toBeTruthy();
    expect(screen.getByText("7.778 V")).toBeTruthy();
    cleanup();
  });
  it("a divider is the one of the circuit at hand", () => {
    live("block divider", {
      id: "ect",
      family: "thermistor-2w",
      title: "Coolant",
      with: {
        pullup: 1000,
        curve: [
          [0, 9000],
          [48, 1000],
        ],
      },
    });
    expect(screen.getByText("Coolant: a pull-up of 1000 Ω to 5 V")).toBeTruthy();
    move("Temperature", 48);
    // As many ohms as the pull-up: half the supply.
    expect(screen.getByText("2.5 V")).toBeTruthy();
    cleanup();
  });
  it("a calculator's number is moved", () => {
    live("calculator drop\ngiven amps 2\nmove ohms 0 to 2\nanswer volts");
    expect(screen.getByText("2 V")).toBeTruthy();
    move("Resistance", 0.2);
    expect(screen.getByText("0.4 V")).toBeTruthy();
    cleanup();
  });
});
