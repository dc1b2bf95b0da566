// Hands on what the microphone hears, as it is, in pieces of some 40 milliseconds.
class Hearing extends AudioWorkletProcessor {
  constructor() {
    super();
    this.piece = new Float32Array(2048);
    this.at = 0;
  }
  process([channels]) {
    const heard = channels[0];
    if (!heard) return true;
    for (const sample of heard) {
      this.piece[this.at++] = sample;
      if (this.at < this.piece.length) continue;
      this.port.postMessage(this.piece);
      this.piece = new Float32Array(2048);
      this.at = 0;
    }
    return true;
  }
}
registerProcessor("hearing", Hearing);
