import type { Role } from "@fox-lamp/language";

/** Who asks: scopes every query. */
export interface Who {
  readonly id: string;
  readonly name: string;
  readonly username: string;
  readonly email: string | null;
  readonly role: Role;
  readonly shopId: string;
  /** Whether this person may open further shops on the installation. */
  readonly owner: boolean;
}
