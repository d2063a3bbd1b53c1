/** Lines of the page that is being written. */
export const out: string[] = [];

/** Puts a line on the page and on the screen. */
export const say = (line = "") => {
  out.push(line);
  console.log(line);
};
