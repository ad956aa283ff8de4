export { CellEditor } from "./cell-editor";
export { ItemSheet } from "./item-sheet";
export { withSet } from "./with-set";
