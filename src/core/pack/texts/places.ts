/** A place in a text as people count: lines and columns from 1. */
export interface Place {
  line: number;
  column: number;
}

/** Lines and columns of a text. */
export class Places {
  private readonly starts: number[] = [0];

  constructor(text: string) {
    for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1)) {
      this.starts.push(at + 1);
    }
  }

  /** Of so many characters in front of it. */
  at(index: number): Place {
    let [low, high] = [0, this.starts.length - 1];
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (this.starts[middle]! <= index) low = middle;
      else high = middle - 1;
    }
    return { line: low + 1, column: index - this.starts[low]! + 1 };
  }
}
