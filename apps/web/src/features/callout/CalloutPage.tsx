import type { Callout, Expect } from "@fox-lamp/language";
import { type FormEvent, useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { reasonOf, useCalloutQuery } from "../../app/api";
import { useLive } from "../../app/live";
import { Brand, ThemeButton } from "../../app/shell";
import { valueText, windowText } from "../../circuit/wording";
import { messages } from "../../messages";
import { canSpeak, say, sound } from "../../ui/tone";

const t = messages.callout;

function calledWindow({ low, high, unit, word }: Callout): Expect | null {
  return low === null && high === null && word === null ? null : { low, high, unit, ...(word === null ? {} : { word }) };
}

/** Asks for the code that stands on the bench. */
function CodeForm() {
  const navigate = useNavigate();
  const [code, setCode] = useState("");
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const plain = code.replaceAll(/\s/gu, "").toUpperCase();
    if (plain !== "") void navigate(`/callout/${plain}`);
  };
  return (
    <form onSubmit={submit} className="m-auto flex w-[min(24rem,calc(100vw-2rem))] flex-col gap-3 text-center">
      <label className="grid gap-2 text-lg">
        {t.askCode}
        <input
          value={code}
          onChange={(event) => setCode(event.target.value)}
          autoCapitalize="characters"
          autoComplete="off"
          className="readout h-16 w-full min-w-0 rounded-xl border-2 border-lamp bg-well text-center text-2xl uppercase tracking-[0.12em] text-ink"
        />
      </label>
      <button type="submit" className="h-14 rounded-xl bg-lamp text-lg font-bold text-on-lamp">
        {t.show}
      </button>
    </form>
  );
}

function Switch({ on, onChange, children }: { on: boolean; onChange: (on: boolean) => void; children: string }) {
  return (
    <button
      type="button"
      aria-pressed={on}
      onClick={() => onChange(!on)}
      className={`h-12 rounded-xl border px-4 ${on ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
    >
      {children}
    </button>
  );
}

/** One value, as large as the screen lets it be, with its window, a tone and a voice. */
function Big({ content }: { content: Callout }) {
  const [toned, setToned] = useState(false);
  const [spoken, setSpoken] = useState(false);
  const { value, unit, fits } = content;
  const text = value === null ? "" : valueText(value, unit);
  const last = useRef("");
  useEffect(() => {
    const key = `${content.title} ${text}`;
    if (text === "" || last.current === key) return;
    last.current = key;
    if (toned && fits !== null) sound(fits);
    if (spoken) say(`${text}${fits === false ? `, ${t.outside}` : ""}`);
  }, [content.title, text, fits, toned, spoken]);
  const standing = fits === null ? t.waiting : fits ? t.inside : t.outside;
  return (
    <main id="content" className="flex flex-1 flex-col items-center justify-center gap-[2vh] p-4 text-center">
      <p className="m-0 text-soft">{content.vehicle}</p>
      <h1 className="m-0 text-[clamp(1.4rem,4vw,2.6rem)] font-bold leading-tight">{content.title}</h1>
      <p className="m-0 text-soft">{content.how}</p>
      <p
        role="status"
        className={`readout m-0 whitespace-nowrap text-[clamp(4rem,22vw,24rem)] font-bold leading-none ${fits === false ? "text-ember" : value === null ? "text-soft" : "text-ink"}`}
        style={text.length > 7 ? { fontSize: `min(22vw, ${Math.round(150 / text.length)}vw)` } : undefined}
      >
        {text === "" ? "– –" : text}
      </p>
      <p className="readout m-0 text-[clamp(1.4rem,5vw,3.5rem)] text-lamp">{windowText(calledWindow(content))}</p>
      <p
        className={`m-0 rounded-2xl px-6 py-2 text-[clamp(1.2rem,4vw,2.6rem)] font-bold ${fits === false ? "bg-ember text-ground" : fits ? "border-2 border-calm text-calm" : "text-soft"}`}
      >
        {fits === false ? "✕ " : fits ? "✓ " : ""}
        {content.taken ? (fits === null ? t.taken : `${standing}, ${t.taken}`) : standing}
      </p>
      <div className="flex flex-wrap justify-center gap-2">
        <Switch on={toned} onChange={setToned}>
          {t.tone}
        </Switch>
        {canSpeak() && (
          <Switch on={spoken} onChange={setSpoken}>
            {t.voice}
          </Switch>
        )}
      </div>
    </main>
  );
}

/** What a bench shows, on this device; the code opens it. */
export function CalloutPage() {
  const { code } = useParams();
  const wanted = code?.toUpperCase();
  const { data, error, refetch } = useCalloutQuery(wanted ?? "", { skip: wanted === undefined });
  useLive(wanted === undefined ? null : `/api/callouts/${wanted}/events`, () => void refetch());
  return (
    <>
      <header className="flex items-center justify-between border-b border-line px-4 py-1.5">
        <Brand />
        {wanted !== undefined && <span className="readout text-xl font-bold tracking-widest text-lamp">{wanted}</span>}
        <ThemeButton />
      </header>
      {wanted !== undefined && data && error === undefined ? (
        <Big content={data} />
      ) : (
        <main id="content" className="m-auto grid gap-6 p-4 text-center">
          <h1 className="m-0 text-xl font-bold">{t.title}</h1>
          {wanted !== undefined && (
            <p className="text-lg text-soft">{error ? (reasonOf(error) ?? t.none(wanted)) : data === null ? t.notYet : messages.states.loading}</p>
          )}
          {(wanted === undefined || error !== undefined) && <CodeForm />}
        </main>
      )}
    </>
  );
}
