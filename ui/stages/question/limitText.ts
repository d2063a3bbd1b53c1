/** A limit as it is typed. */
export const limitText = (limit: number) => `${Number((limit * 100).toPrecision(6))} %`;
