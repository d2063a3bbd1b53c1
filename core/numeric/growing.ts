/** A list of whole numbers that grows; typed arrays keep millions of them where objects would not. */
export class Growing {
  values = new Int32Array(1024);
  length = 0;

  push(v: number): void {
    if (this.length === this.values.length) {
      const wider = new Int32Array(2 * this.length);
      wider.set(this.values);
      this.values = wider;
    }
    this.values[this.length++] = v;
  }

  taken(): Int32Array {
    return this.values.slice(0, this.length);
  }
}
