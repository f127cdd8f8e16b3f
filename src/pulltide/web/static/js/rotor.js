// Shafts of a drawing turn at their true speeds beside each other; not for whoever has asked for less motion.
window.pulltide = window.pulltide || {};
window.pulltide.rotor = {
  // The button is there only where it does something.
  offerTurning() {
    const button = document.getElementById("turn");
    if (button) button.hidden = window.matchMedia("(prefers-reduced-motion: reduce)").matches;
    this.turnShafts();
  },

  turnOrStop() {
    this.turns = !this.turns;
    this.turnShafts();
  },

  turnShafts() {
    const button = document.getElementById("turn");
    if (!button) { this.turns = false; return; }
    button.setAttribute("aria-pressed", String(Boolean(this.turns)));
    button.textContent = this.turns ? said("Stop") : said("Let it turn");
    if (this.turns && !this.turning) this.turning = requestAnimationFrame((now) => this.turnFrom(now));
  },

  // One frame after the other until it is stopped, the page is left, or another place is drawn.
  turnFrom(began) {
    const step = (now) => {
      const card = this.root().querySelector("[data-turns]");
      this.turning = null;
      if (!card || !this.turns) return;
      const speeds = JSON.parse(card.dataset.turns);
      const fastest = Math.max(...speeds.map(Math.abs));
      const seconds = (now - began) / 1000;
      card.querySelectorAll(".axle").forEach((cross, number) => {
        const box = cross.getBBox();
        const degrees = (180 * seconds * speeds[number]) / fastest;
        cross.setAttribute("transform", `rotate(${degrees} ${box.x + box.width / 2} ${box.y + box.height / 2})`);
      });
      this.turning = requestAnimationFrame(step);
    };
    step(began);
  },
};
