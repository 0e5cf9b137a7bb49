import type { ReactNode } from "react";
import { NavLink } from "react-router";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";

const t = messages.shelf;

/** The head of the shelf's pages: what else stands on it. @param search what the address keeps from page to page */
export function ShelfHead({ search = "", children }: { search?: string; children?: ReactNode }) {
  const pages = [
    ["/shelf", t.specifications],
    ["/cards", t.cards],
    ["/calculators", t.calculators],
  ] as const;
  return (
    <PageHead>
      <nav aria-label={t.shelf} className="flex items-center overflow-x-auto text-sm sm:gap-1 sm:text-base">
        {pages.map(([to, name]) => (
          <NavLink
            key={to}
            to={`${to}${search}`}
            className={({ isActive }) =>
              `flex min-h-11 shrink-0 items-center rounded-lg px-1.5 no-underline sm:px-2.5 hover:text-ink ${isActive ? "font-bold text-ink underline decoration-lamp decoration-2 underline-offset-8" : "text-soft"}`
            }
          >
            {name}
          </NavLink>
        ))}
        {children}
      </nav>
    </PageHead>
  );
}
