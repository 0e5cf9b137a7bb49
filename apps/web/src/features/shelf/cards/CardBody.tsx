import type { Circuit } from "@fox-lamp/language";
import Markdown from "markdown-to-jsx";
import { type ReactElement, type ReactNode, useMemo } from "react";
import { Link } from "react-router";
import { Live } from "./blocks";
import { blockIn, type Card, figureIn } from "./cards";

/** A figure that leads to its calculation; other code as it is. */
function Code({ children }: { children?: ReactNode }) {
  const figure = typeof children === "string" ? figureIn(children) : null;
  if (figure === null) return <code className="readout">{children}</code>;
  const numbers = new URLSearchParams(Object.entries(figure.given).map(([name, value]) => [name, `${value}`]));
  return (
    <Link to={`/calculators/${figure.calculator}?${numbers}`} className="readout font-bold text-ink decoration-lamp underline-offset-4">
      {figure.text}
    </Link>
  );
}

function Anchor({ href = "", search, children }: { href?: string; search: string; children?: ReactNode }) {
  return <Link to={href.startsWith("/cards/") ? `${href}${search}` : href}>{children}</Link>;
}

interface Props {
  readonly card: Card;
  /** The circuit at hand, where the card was opened from one. */
  readonly circuit: Circuit | null;
  /** What the address keeps from card to card. */
  readonly search: string;
}

/** A card's text with its live blocks. */
export function CardBody({ card, circuit, search }: Props) {
  const options = useMemo(
    () => ({
      disableParsingRawHTML: true,
      forceBlock: true,
      overrides: {
        code: Code,
        a: { component: Anchor, props: { search } },
        pre: ({ children }: { children?: ReactElement<{ className?: string; children?: string }> }) =>
          children?.props.className?.includes("lang-live") === true ? (
            <Live block={blockIn((children.props.children ?? "").trim())} circuit={circuit} />
          ) : (
            <pre>{children}</pre>
          ),
      },
    }),
    [circuit, search],
  );
  return (
    <div className="max-w-2xl leading-relaxed [&_li]:my-1 [&_ol]:my-2 [&_ol]:list-decimal [&_ol]:pl-6 [&_p]:my-2.5 [&_ul]:my-2 [&_ul]:list-disc [&_ul]:pl-6">
      <Markdown options={options}>{card.body}</Markdown>
    </div>
  );
}
