import { STAGES, WAITS, YARD_SORTS } from "@fox-lamp/language";
import { SlidersHorizontal } from "lucide-react";
import { useState } from "react";
import { useShopQuery } from "../../app/api";
import { messages } from "../../messages";
import { Button, Chip, Select, TextField } from "../../ui/form";
import { filtersOf, IDLE_DAYS, type YardView } from "./use-yard-query";

const t = messages.yard;

interface Props {
  readonly view: YardView;
  readonly onView: (part: Partial<YardView>) => void;
}

/** What the yard shows: whose jobs, at which stage, what they wait for, a code, how long nobody touched them, in which order. */
export function Filters({ view, onView }: Props) {
  const set = filtersOf(view);
  const [open, setOpen] = useState(set > (view.mine ? 1 : 0));
  const { data: shop } = useShopQuery();
  const people = shop?.people.filter(({ active }) => active) ?? [];
  return (
    <div className="mb-5">
      <div className="flex flex-wrap items-center gap-2">
        <Chip on={view.mine} onChange={(mine) => onView({ mine })}>
          {t.mine}
        </Chip>
        <Button aria-expanded={open} onClick={() => setOpen(!open)} className="flex items-center gap-2">
          <SlidersHorizontal size={18} aria-hidden="true" /> {t.filters(set)}
        </Button>
        <Button onClick={() => onView({ view: view.view === "days" ? "stages" : "days" })} aria-pressed={view.view === "days"}>
          {view.view === "days" ? t.byStage : t.byDay}
        </Button>
        {set > 0 && (
          <Button weight="quiet" onClick={() => onView({ person: "", waiting: "", code: "", idleDays: "", stage: "", mine: false })}>
            {t.clearFilters}
          </Button>
        )}
      </div>
      {open && (
        <div className="mt-3 grid grid-cols-2 gap-3 rounded-xl border border-line bg-panel p-3 md:grid-cols-3 lg:grid-cols-6">
          <Select
            label={t.stage}
            value={view.stage}
            options={[["", t.any], ...STAGES.map((stage) => [stage, messages.stages[stage]] as const)]}
            onChange={(stage) => onView({ stage })}
          />
          <Select
            label={t.person}
            value={view.person}
            options={[["", t.any], ["nobody", t.unassigned], ...people.map(({ id, name }) => [id, name] as const)]}
            onChange={(person) => onView({ person })}
          />
          <Select
            label={messages.complaint.waiting}
            value={view.waiting}
            options={[["", t.any], ["any", t.anything], ...WAITS.map((wait) => [wait, messages.complaint.waits[wait]] as const)]}
            onChange={(waiting) => onView({ waiting })}
          />
          <TextField label={t.code} value={view.code} onChange={(event) => onView({ code: event.target.value })} className="readout" />
          <Select
            label={t.idle}
            value={view.idleDays}
            options={[["", t.any], ...IDLE_DAYS.map((days) => [days, t.days(Number(days))] as const)]}
            onChange={(idleDays) => onView({ idleDays })}
          />
          <Select label={t.sort} value={view.sort} options={YARD_SORTS.map((sort) => [sort, t.sorts[sort]] as const)} onChange={(sort) => onView({ sort })} />
        </div>
      )}
    </div>
  );
}
