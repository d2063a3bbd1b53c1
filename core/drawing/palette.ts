/** Colours of the product, for drawings that stand outside the page's style sheet. */
export const INK = {
  ink: "#1D2427",
  ink2: "#4F5A5E",
  ink3: "#667074",
  line: "#D3D1C7",
  soft: "#ECEAE2",
  tin: "#8b9394",
  pointer: "#B5412B",
  verdigris: "#2F7668",
  brass: "#A87A1F",
  brassText: "#7d5a14",
  blue: "#27506B",
  plum: "#75486A",
  slate: "#5C6B73",
  olive: "#6B7040",
} as const;

/** Series colours in the order of use; each is also told by its dash and marker. */
export const SERIES = [INK.blue, INK.brass, INK.verdigris, INK.plum, INK.slate, INK.olive] as const;
export const DASHES = ["", "6 3", "2 2", "8 2 2 2", "4 4", "1 3"] as const;
