export { CellEditor } from "./cell-editor";
export { EditPanel } from "./edit-panel";
export { ItemSheet } from "./item-sheet";
export { pastedValues } from "./pasted";
export { TakeOutDialog } from "./take-out";
export { withSet } from "./with-set";
export { WherePanel } from "./where-panel";
