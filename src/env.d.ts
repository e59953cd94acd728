declare namespace App {
  interface Locals {
    person: import('#server/access/sign-in.ts').Person | null;
  }
}
