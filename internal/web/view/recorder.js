// Collects what the microphone hears while a key is held; the page takes the pieces.
class Recorder extends AudioWorkletProcessor {
  process(inputs) {
    const x = inputs[0][0];
    if (x) this.port.postMessage(x.slice());
    return true;
  }
}
registerProcessor('recorder', Recorder);
