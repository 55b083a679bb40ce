/* Runs in the audio thread of a browser: hands every 128 samples of the first channel, and when it had them, to whoever holds the other end of the port. */
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
      // Of all clocks this is the one that an audio thread has, too.
      this.to.postMessage({ samples: block, takenMs: Date.now() }, [block.buffer]);
    }
    return !this.ended;
  }
}

registerProcessor('capture', Capture);
