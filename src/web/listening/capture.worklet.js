/* Runs in the audio thread of a browser: hands every 128 samples of the first channel to whoever holds the other end of the port. */
class Capture extends AudioWorkletProcessor {
  constructor() {
    super();
    this.ended = false;
    this.port.onmessage = ({ data }) => {
      if (data === 'stop') this.ended = true;
      else this.to = data;
    };
  }

  process([input]) {
    const samples = input[0];
    if (this.to && samples) {
      const block = samples.slice();
      this.to.postMessage(block, [block.buffer]);
    }
    return !this.ended;
  }
}

registerProcessor('capture', Capture);
