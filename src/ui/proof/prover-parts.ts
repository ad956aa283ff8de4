export { drawnKeyword } from "./drawn-keyword";
export { proveRows } from "./local-proof";
export { ResultPreview } from "./result-preview";
