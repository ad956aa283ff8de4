export { drawnKeyword } from "./drawn-keyword";
export { proveRows } from "./local-proof";
export { ResultPreview, TabPreview } from "./result-preview";
