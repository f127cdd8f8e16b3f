// Hands every block of the first channel on to the page.
class Recorder extends AudioWorkletProcessor {
  process(inputs) {
    const channel = inputs[0][0];
    if (channel) this.port.postMessage(channel.slice());
    return true;
  }
}
registerProcessor("recorder", Recorder);
