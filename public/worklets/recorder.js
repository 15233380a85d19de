/**
 * Hands on every frame that goes through, in pieces, until it is told to end.
 */
class Recorder extends AudioWorkletProcessor {
  constructor() {
    super();
    this.isOn = true;
    this.port.onmessage = () => {
      this.isOn = false;
    };
  }

  process([input]) {
    if (input.length > 0) {
      const channels = input.map((channel) => channel.slice());
      this.port.postMessage(
        { frame: currentFrame, channels },
        channels.map(({ buffer }) => buffer),
      );
    } else {
      this.port.postMessage({ frame: currentFrame, channels: [] });
    }
    return this.isOn;
  }
}

registerProcessor('bijou-recorder', Recorder);
