/** A stretch that scrolls sideways. What only screen readers are told scrolls along in it, and makes nothing around it wider. */
export const SIDEWAYS = "relative overflow-x-auto";
