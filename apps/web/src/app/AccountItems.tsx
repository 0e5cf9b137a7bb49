import type { Me } from "@fox-lamp/language";
import { LogOut } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import type { ReactElement, ReactNode } from "react";
import { Link } from "react-router";
import { messages } from "../messages";

function MenuLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <DropdownMenu.Item asChild>
      <Link to={to} className="flex h-11 items-center rounded-lg px-3 text-ink no-underline outline-none data-highlighted:bg-well">
        {children}
      </Link>
    </DropdownMenu.Item>
  );
}

/** The open menu of the person and the shop. @param trigger the button it hangs on */
export function AccountItems({ me, trigger, onLeave }: { me: Me; trigger: ReactElement; onLeave: () => void }) {
  return (
    <DropdownMenu.Root defaultOpen>
      <DropdownMenu.Trigger asChild>{trigger}</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={6} className="z-30 w-64 rounded-xl border border-line bg-panel p-1.5 shadow-2xl">
          <DropdownMenu.Label className="px-3 py-2 text-sm text-soft">{messages.shell.signedInAs(me.name, messages.roles[me.role])}</DropdownMenu.Label>
          <MenuLink to="/settings">{messages.settings.title}</MenuLink>
          <MenuLink to="/account">{messages.shell.yourAccount}</MenuLink>
          {me.role === "foreman" && <MenuLink to="/people">{messages.shell.people}</MenuLink>}
          {me.owner && <MenuLink to="/shops">{messages.shops.title}</MenuLink>}
          <MenuLink to="/shelf">{messages.shell.shelf}</MenuLink>
          {me.role !== "trainee" && <MenuLink to="/figures">{messages.shell.figures}</MenuLink>}
          <DropdownMenu.Item onSelect={onLeave} className="flex h-11 cursor-pointer items-center gap-2 rounded-lg px-3 outline-none data-highlighted:bg-well">
            <LogOut size={18} aria-hidden="true" /> {messages.shell.signOut}
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
