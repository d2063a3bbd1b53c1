/** Formulas in x that would be worked on for seconds to minutes, with what is said of them. */
export const HOSTILE_FORMULAS = [
  ["(".repeat(150), "brackets in brackets"],
  [`${"sin(".repeat(12)}x${")".repeat(12)}`, "brackets in brackets"],
  ["x^x^x^x^x^x^x^x", "powers with a variable in the exponent"],
  [Array(20).fill("sin(x)").join("*"), "terms; 1500 is the most"],
  [Array(60).fill("x").join("*"), "terms; 1500 is the most"],
] as const;
