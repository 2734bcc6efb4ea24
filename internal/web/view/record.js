// Recording while a key or a button is held: what the microphone hears, as a WAV file. Nothing is kept here.
export const noMicrophone = () =>
  isSecureContext
    ? 'There is no microphone here, or the browser may not use it. The simulated guitar stands in for it.'
    : 'A browser gives the microphone to secure pages alone: start Ornamen with --cert and --key for that. ' +
      'The simulated guitar stands in for it.';

// record begins at once; stop() ends it, also while the browser still asks, and calls done with the file.
export function record(done, failed) {
  const parts = [];
  let end = null,
    over = false;
  const finish = () => {
    const rate = end(),
      n = parts.reduce((k, p) => k + p.length, 0),
      b = new DataView(new ArrayBuffer(44 + 2 * n));
    const word = (at, s) => {
      for (let i = 0; i < s.length; i++) b.setUint8(at + i, s.charCodeAt(i));
    };
    word(0, 'RIFF');
    b.setUint32(4, 36 + 2 * n, true);
    word(8, 'WAVEfmt ');
    b.setUint32(16, 16, true);
    b.setUint16(20, 1, true);
    b.setUint16(22, 1, true);
    b.setUint32(24, rate, true);
    b.setUint32(28, 2 * rate, true);
    b.setUint16(32, 2, true);
    b.setUint16(34, 16, true);
    word(36, 'data');
    b.setUint32(40, 2 * n, true);
    let at = 44;
    for (const p of parts)
      for (const x of p) {
        b.setInt16(at, Math.max(-1, Math.min(1, x)) * 32767, true);
        at += 2;
      }
    done(new Blob([b.buffer], {type: 'audio/wav'}));
  };
  (async () => {
    try {
      const stream = await navigator.mediaDevices.getUserMedia({
        audio: {echoCancellation: false, noiseSuppression: false, autoGainControl: false},
      });
      const ctx = new AudioContext();
      await ctx.audioWorklet.addModule('/assets/recorder.js');
      const node = new AudioWorkletNode(ctx, 'recorder');
      node.port.onmessage = e => parts.push(e.data);
      ctx.createMediaStreamSource(stream).connect(node);
      end = () => {
        for (const t of stream.getTracks()) t.stop();
        ctx.close();
        return ctx.sampleRate;
      };
      if (over) finish();
    } catch {
      failed(noMicrophone());
    }
  })();
  return {
    stop() {
      over = true;
      if (end) finish();
    },
  };
}
