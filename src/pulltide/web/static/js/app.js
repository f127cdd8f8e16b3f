// Screen state only: what a machine's page does is in transport, turning, keyboard and slider.
document.addEventListener("alpine:init", () => {
  const { transport, turning, keyboard, slider } = window.pulltide;
  window.Alpine.data("train", () => ({
    state: "",
    conflict: false,
    conflictText: "",
    queue: Promise.resolve(),
    waiting: 0,
    goKey: false,
    drawn: 0,

    init() {
      this.state = this.savedText();
      this.syncHelp();
    },

    ...transport,
    ...turning,
    ...keyboard,
    ...slider,
  }));
});
