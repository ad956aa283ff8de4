import { type PracticePage } from "../practice/practice-store";

/** A page for tests, another one for each number. */
export function practicePage(i: number): PracticePage {
  return {
    id: `p${i}`,
    kind: i % 5 === 0 ? "post" : "product",
    path: `/goods/rope-${i}`,
    name: `Rope ${i}`,
    title: `Rope ${i} | Fennick & Dray`,
    description: "",
    robots: "",
    canonical: "",
    intro: "",
    body: "<p>Rope</p>",
    category: "Rope",
    categoryPath: "Goods › Rope",
    author: "",
    published: "",
    price: "6.29",
    attributes: '{"colour":"red"}',
    changedAt: `2026-01-${String(i).padStart(2, "0")}T06:00:00Z`,
    version: 1,
  };
}
