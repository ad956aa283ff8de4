export { drawnKeyword } from "../../core/proof/drawn-keyword";
export { rowProverOf } from "../../core/proof/row-proof";
export { ResultPreview, TabPreview } from "./result-preview";
