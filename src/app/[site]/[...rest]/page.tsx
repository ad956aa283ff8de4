import { notFound } from "next/navigation";

/** An address within a site that no view has. */
export default function Page(): never {
  notFound();
}
