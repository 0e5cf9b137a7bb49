import { isSaid, type Section } from "./section";

/** What stands at the head of a paper. */
export interface Letterhead {
  readonly shop: string;
  readonly letterhead: readonly string[];
  readonly logo: string | null;
  readonly page: string;
  readonly vehicle: string;
  readonly vehicleDetails: string;
}

function Rows({ columns = [], rows = [] }: Section) {
  if (rows.length === 0) return null;
  return (
    <table className="w-full border-collapse text-sm">
      <thead>
        <tr className="text-left text-soft">
          {columns.map((column) => (
            <th key={column} className="py-1 pr-3 font-normal">
              {column}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={row.join("|")} className="break-inside-avoid border-t border-line align-top">
            {row.map((cell, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row never move
              <td key={index} className={`py-1.5 pr-3 ${index === 1 ? "" : "readout"}`}>
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function Block({ section }: { section: Section }) {
  return (
    <section>
      <h3 className="mb-1 mt-4 break-after-avoid text-sm font-bold text-lamp">{section.title}</h3>
      {section.lines.map((line, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two lines may say the same
        <p key={index} className="m-0 mb-1 break-inside-avoid [overflow-wrap:anywhere]">
          {line}
        </p>
      ))}
      <Rows {...section} />
      {section.pictures && (
        <ul className="m-0 grid list-none grid-cols-2 gap-3 p-0 sm:grid-cols-3">
          {section.pictures.map(({ source, caption }) => (
            <li key={source} className="break-inside-avoid">
              <img src={source} alt={caption} loading="lazy" className="aspect-[4/3] w-full rounded-lg border border-line object-cover" />
              <p className="m-0 text-sm text-soft">{caption}</p>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

/** A page of a report on screen, as it is printed: who made it, for which vehicle, and its blocks. */
export function Paper({ head, title, sections }: { head: Letterhead; title: string; sections: readonly Section[] }) {
  return (
    <article aria-label={title} className="rounded-2xl border border-line bg-panel px-5 py-5 sm:px-6 print:break-after-page print:border-0">
      <header className="grid gap-x-6 gap-y-2 border-b-2 border-lamp pb-2 sm:flex sm:items-end sm:justify-between print:flex print:items-end print:justify-between">
        <div className="flex items-start gap-3">
          {head.logo !== null && <img src={head.logo} alt="" className="max-h-16 max-w-40 object-contain" />}
          <div>
            <p className="m-0 font-bold">{head.shop}</p>
            {head.letterhead.map((line) => (
              <p key={line} className="m-0 text-sm text-soft">
                {line}
              </p>
            ))}
            <p className="m-0 text-sm text-soft">{head.page}</p>
          </div>
        </div>
        <div className="sm:text-right print:text-right">
          <h2 className="m-0 text-xl font-bold">{head.vehicle}</h2>
          <p className="m-0 text-sm text-soft">{head.vehicleDetails}</p>
        </div>
      </header>
      <p className="mb-0 mt-3 text-sm text-soft">{title}</p>
      {sections.filter(isSaid).map((section) => (
        <Block key={section.title} section={section} />
      ))}
    </article>
  );
}
