// Records through the microphone, with the browser's own clean-up switched off, and puts the sound into the form as a WAV
// file: the server listens to it.
window.pulltide = window.pulltide || {};

const RECORD_RATE = 8000;

function wavOf(chunks, rate) {
  const count = chunks.reduce((total, chunk) => total + chunk.length, 0);
  const view = new DataView(new ArrayBuffer(44 + 2 * count));
  const text = (at, word) => [...word].forEach((char, k) => view.setUint8(at + k, char.charCodeAt(0)));
  text(0, "RIFF");
  view.setUint32(4, 36 + 2 * count, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, "data");
  view.setUint32(40, 2 * count, true);
  let at = 44;
  for (const chunk of chunks)
    for (const value of chunk) {
      view.setInt16(at, Math.max(-1, Math.min(1, value)) * 32767, true);
      at += 2;
    }
  return new Blob([view.buffer], { type: "audio/wav" });
}

async function recorded(seconds) {
  const plain = { echoCancellation: false, noiseSuppression: false, autoGainControl: false };
  const stream = await navigator.mediaDevices.getUserMedia({ audio: plain });
  const context = new AudioContext({ sampleRate: RECORD_RATE });
  try {
    await context.audioWorklet.addModule("/static/js/recorder-worklet.js");
    const node = new AudioWorkletNode(context, "recorder");
    const chunks = [];
    node.port.onmessage = (message) => chunks.push(message.data);
    context.createMediaStreamSource(stream).connect(node);
    await new Promise((done) => setTimeout(done, 1000 * seconds));
    return wavOf(chunks, context.sampleRate);
  } finally {
    stream.getTracks().forEach((track) => track.stop());
    await context.close();
  }
}

window.pulltide.listening = {
  // What an instrument shows stands beside the value once a second, until it is held.
  async watch(event) {
    const button = event.target, form = button.closest("form");
    const says = form.querySelector(".live-says"), value = form.querySelector("[name=part]");
    if (button.dataset.watching) {
      delete button.dataset.watching;
      button.textContent = said("Watch");
      if (says.dataset.shows) value.value = says.dataset.shows;
      value.focus();
      return;
    }
    button.dataset.watching = "yes";
    button.textContent = said("Hold");
    while (button.isConnected && button.dataset.watching) {
      const named = encodeURIComponent(form.querySelector("[name=kind]").value);
      const plan = form.querySelector("[name=plan]").value;
      const [shows, why] = await this.shown(`${button.dataset.liveFrom}?named=${named}&plan=${plan}`);
      if (!button.dataset.watching) break;
      says.textContent = shows || why;
      says.dataset.shows = shows;
      await new Promise((done) => setTimeout(done, 900));
    }
  },

  async shown(address) {
    try {
      const answer = await fetch(address, { signal: AbortSignal.timeout(4000) });
      const heard = answer.ok ? await answer.json() : { shows: "", why: said("No reading now.") };
      return [heard.shows, heard.why];
    } catch (error) {
      return ["", said("No answer, still trying.")];
    }
  },

  // The button is there only where the browser can record.
  offerRecording() {
    const may = Boolean(navigator.mediaDevices && window.AudioWorkletNode);
    for (const button of document.querySelectorAll(".listen button[type=button]")) button.hidden = !may;
  },

  async record(event) {
    const form = event.target.closest("form");
    const says = form.querySelector(".record-says");
    const chosen = form.querySelector("select").selectedOptions[0];
    const seconds = Number(chosen.dataset.seconds);
    event.target.disabled = true;
    says.textContent = chosen.value.startsWith("strum") ? said("Quiet, then pluck once…") : said("Listening…");
    try {
      const sound = await recorded(seconds);
      const files = new DataTransfer();
      files.items.add(new File([sound], "recording.wav", { type: "audio/wav" }));
      form.querySelector("input[type=file]").files = files.files;
      says.textContent = said("Recorded. Listening to it now.");
      form.requestSubmit();
    } catch (error) {
      says.textContent = said("No microphone to record with. A WAV file does as well.");
      event.target.disabled = false;
    }
  },
};
