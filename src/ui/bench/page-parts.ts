// What the Bench shows of the selected page. It comes with what proves texts, which is large.
export { ItemPanel } from "./item-panel";
export { itemProofs } from "./item-proofs";
export { ResultsBeside, ShelfResults } from "./results";
