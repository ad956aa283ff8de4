import type { Metadata } from "next";
import { Suspense } from "react";
import { Addresses } from "../../../ui/addresses/addresses";

export const metadata: Metadata = { title: "Addresses" };

export default function Page() {
  return (
    <Suspense>
      <Addresses />
    </Suspense>
  );
}
