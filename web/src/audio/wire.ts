import type { InputNode, ToneAudioNode } from "tone";

/** How long what a wire carried takes to fade before it is taken away, in ms. */
const FADE = 80;

/** A wire that is there only while it is wanted: what leads nowhere is not worked out, and a machine plays
 * so many more voices. */
export class Wire {
  private wanted = false;
  private there = false;
  private gone = false;

  constructor(
    private readonly from: ToneAudioNode,
    private readonly to: InputNode,
  ) {}

  set(wanted: boolean): void {
    this.wanted = wanted;
    if (wanted && !this.there) {
      this.there = true;
      this.from.connect(this.to);
    } else if (!wanted && this.there) {
      setTimeout(() => {
        if (this.wanted || this.gone || !this.there) return;
        this.there = false;
        this.from.disconnect(this.to);
      }, FADE);
    }
  }

  dispose(): void {
    this.gone = true;
  }
}
