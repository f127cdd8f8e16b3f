// Rings on a drawing are dragged along their way and catch at their stops; arrow keys go from stop to stop.
window.pulltide = window.pulltide || {};
window.pulltide.rings = {
  ring: null,

  ringOf(event) { return event.target.closest ? event.target.closest("[data-ring]") : null; },
  stopsOf(ring) { return JSON.parse(ring.dataset.stops); },

  ringTaken(event) {
    const ring = this.ringOf(event);
    if (!ring || event.button) return;
    event.preventDefault();
    ring.focus({ preventScroll: true });
    ring.setPointerCapture(event.pointerId);
    this.ring = { ring, stops: this.stopsOf(ring), from: this.onPaper(ring, event), to: Number(ring.dataset.now) };
  },

  // A point of the screen in units of the drawing.
  onPaper(ring, event) {
    const point = new DOMPoint(event.clientX, event.clientY);
    return point.matrixTransform(ring.ownerSVGElement.getScreenCTM().inverse());
  },

  ringMoved(event) {
    if (!this.ring) return;
    const { ring, stops, from } = this.ring;
    const at = this.onPaper(ring, event);
    const way = (at.x - from.x) * Number(ring.dataset.alongX) + (at.y - from.y) * Number(ring.dataset.alongY);
    let nearest = 0;
    stops.forEach((stop, number) => { if (Math.abs(stop.at - way) < Math.abs(stops[nearest].at - way)) nearest = number; });
    this.ring.to = nearest;
    this.drawRing(ring, stops[nearest]);
  },

  drawRing(ring, stop) {
    const [x, y] = [Number(ring.dataset.alongX) * stop.at, Number(ring.dataset.alongY) * stop.at];
    ring.setAttribute("transform", `translate(${x} ${y})`);
    ring.querySelector("text").textContent = stop.says;
    ring.setAttribute("aria-valuetext", stop.says);
  },

  ringLeft() {
    if (!this.ring) return;
    const { ring, to } = this.ring;
    this.ring = null;
    this.setRing(ring, to);
  },

  // Let go elsewhere than where it was: the stage takes what has that length.
  setRing(ring, to) {
    const stops = this.stopsOf(ring);
    const now = Number(ring.dataset.now);
    this.drawRing(ring, stops[to]);
    if (to === now) { ring.querySelector("text").textContent = ""; return; }
    const form = document.querySelector(`#${ring.id.replace("ring-", "ring-form-")} form`);
    form.querySelector("input[name^='set:']").value = stops[to].value;
    form.requestSubmit();
  },

  ringKey(event) {
    const ring = this.ringOf(event);
    if (!ring) return false;
    const step = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[event.key];
    if (event.key === "Escape" && this.ring) { this.ring.to = Number(ring.dataset.now); this.ringLeft(); return true; }
    if (!step) return false;
    event.preventDefault();
    const to = Number(ring.dataset.now) + step;
    if (to >= 0 && to < this.stopsOf(ring).length) this.setRing(ring, to);
    return true;
  },
};
