import { FAMILY_NAMES, recordsOfFile, writeTable } from "@fox-lamp/core";
import { SHELF_KINDS, type ShelfKind, type SpecVariant, type StoredSpec } from "@fox-lamp/language";
import Papa from "papaparse";
import { useState } from "react";
import { reasonOf, useLazyShelfFileQuery, useMergeShelfMutation, useRemoveSpecMutation, useShelfQuery, useVehicleQuery } from "../../../app/api";
import { DeadEnd } from "../../../app/DeadEnd";
import { useSession } from "../../../app/session";
import { useAsked } from "../../../app/use-asked";
import { messages } from "../../../messages";
import { AskFirst } from "../../../ui/AskFirst";
import { Block, Button, Chip, Select, TextField } from "../../../ui/form";
import { saveAs } from "../../../ui/picture";
import { toast } from "../../../ui/toast";
import { vehicleName } from "../../../ui/vehicle";
import { ShelfHead } from "../ShelfHead";
import { Compare } from "./Compare";
import { ImportDialog } from "./ImportDialog";
import { ImportsList } from "./ImportsList";
import { RecordForm } from "./RecordForm";
import { SpecRow } from "./SpecRow";

const t = messages.specs;
const ASKED = ["q", "kind", "family", "vehicle", "bad"] as const;
/** The shelf as files: everything, or what holds for one vehicle. */
function SaveFiles({ vehicle }: { vehicle: string | null }) {
  const [load] = useLazyShelfFileQuery();
  const save = async (as: ShelfKind | "json"): Promise<void> => {
    const answer = await load(vehicle);
    if (answer.data === undefined) return void toast.error(reasonOf(answer.error) ?? messages.states.failed);
    const made =
      as === "json"
        ? new Blob([JSON.stringify(answer.data, null, 2)], { type: "application/json" })
        : new Blob([Papa.unparse(writeTable(as, recordsOfFile(answer.data)))], { type: "text/csv" });
    saveAs(made, as === "json" ? "fox-lamp-shelf.json" : `fox-lamp-${as}s.csv`);
  };
  return (
    <div className="flex flex-wrap gap-2">
      {SHELF_KINDS.map((kind) => (
        <Button key={kind} onClick={() => void save(kind)}>
          {t.saveCsv(t.many[kind])}
        </Button>
      ))}
      <Button onClick={() => void save("json")}>{t.saveJson}</Button>
    </div>
  );
}

type Editing = { readonly kind: ShelfKind; readonly spec: StoredSpec | null };

/** What the technician looks up: limits, curves and look-alikes, searched, judged by physics, several of the same thing side by side. */
export function ShelfPage() {
  const [asked, setAsked] = useAsked(ASKED);
  const me = useSession();
  const mayChange = me?.role !== "trainee";
  const { currentData, data: last, error, refetch } = useShelfQuery(asked);
  const data = currentData ?? last;
  const { data: vehicle } = useVehicleQuery(asked.vehicle ?? "", { skip: asked.vehicle === undefined });
  const [open, setOpen] = useState<string | null>(null);
  const [editing, setEditing] = useState<Editing | null>(null);
  const [importing, setImporting] = useState(false);
  const [remove] = useRemoveSpecMutation();
  const [merge] = useMergeShelfMutation();
  const items = data?.items ?? [];
  const variants = items.flatMap(({ item }): SpecVariant[] => (item.kind === "variant" ? [item.record] : []));
  if (error) return <DeadEnd retry={() => void refetch()}>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  const takeOff = async (id: string): Promise<void> => {
    const answer = await remove(id);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.removed);
  };
  const mergeAll = async (): Promise<void> => {
    const answer = await merge();
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.merged(answer.data.count));
  };
  return (
    <>
      <ShelfHead />
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 lg:px-6">
        <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
        <p className="m-0 mb-3 text-soft">{t.lead}</p>
        <div className="grid grid-cols-2 items-end gap-3 md:grid-cols-[2fr_1fr_1fr_auto]">
          <div className="col-span-2 md:col-span-1">
            <TextField label={t.find} type="search" value={asked.q ?? ""} onChange={(event) => setAsked({ q: event.target.value })} />
          </div>
          <Select
            label={t.kind}
            value={asked.kind ?? ""}
            options={[["", t.everything], ...SHELF_KINDS.map((kind) => [kind, t.many[kind]] as const)]}
            onChange={(kind) => setAsked({ kind })}
          />
          <Select
            label={messages.sheet.family}
            value={asked.family ?? ""}
            options={[["", t.everything], ...FAMILY_NAMES.map(({ id, title }) => [id, title] as const)]}
            onChange={(family) => setAsked({ family })}
          />
          <div className="col-span-2 md:col-span-1">
            <Chip on={asked.bad === "yes"} onChange={(bad) => setAsked({ bad: bad ? "yes" : "" })}>
              {t.onlyBad}
            </Chip>
          </div>
        </div>
        {asked.vehicle !== undefined && (
          <p className="m-0 mt-2 flex flex-wrap items-center gap-3">
            {t.forVehicle(vehicle === undefined ? "" : vehicleName(vehicle.details))}
            <Button weight="quiet" onClick={() => setAsked({ vehicle: "" })}>
              {t.forAll}
            </Button>
          </p>
        )}
        {mayChange && (
          <div className="mt-3 flex flex-wrap gap-2">
            <Button weight="next" onClick={() => setImporting(true)}>
              {t.importCsv}
            </Button>
            {SHELF_KINDS.map((kind) => (
              <Button key={kind} onClick={() => setEditing({ kind, spec: null })}>
                {t.add[kind]}
              </Button>
            ))}
          </div>
        )}
        <p role="status" className="m-0 mt-4 text-sm text-soft">
          {data === undefined ? messages.states.loading : t.count(data.count, items.length)}
        </p>
        <ul className="m-0 list-none p-0">
          {items.map((spec) => (
            <SpecRow
              key={spec.id}
              spec={spec}
              open={open === spec.id}
              onOpen={() => setOpen(open === spec.id ? null : spec.id)}
              mayChange={mayChange}
              onEdit={() => setEditing({ kind: spec.item.kind, spec })}
              onRemove={() => void takeOff(spec.id)}
            />
          ))}
        </ul>
        <div className="mt-5 grid gap-4">
          {asked.family !== undefined && variants.length > 0 && <Compare family={asked.family} variants={variants} />}
          <ImportsList mayChange={mayChange} />
          <Block title={t.files}>
            <SaveFiles vehicle={asked.vehicle ?? null} />
            {mayChange && (
              <div className="mt-3">
                <AskFirst label={t.merge} title={t.mergeTitle} lead={t.mergeLead} onYes={() => void mergeAll()} />
              </div>
            )}
          </Block>
        </div>
      </main>
      {importing && <ImportDialog onClose={() => setImporting(false)} />}
      {editing !== null && <RecordForm kind={editing.kind} id={editing.spec?.id ?? null} item={editing.spec?.item ?? null} onClose={() => setEditing(null)} />}
    </>
  );
}
