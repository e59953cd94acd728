declare namespace App {
  interface Locals {
    /** Who is signed in. */
    person: import('#server/access/table.ts').Person | null;
    /** What the address names, once the gate has let the request in. */
    subject: import('#server/access/table.ts').Subject | null;
  }
}
