// The mark on strips follows the slider, or the place that is pressed, and says what is so there.
window.pulltide = window.pulltide || {};
window.pulltide.strips = {
  scrub(event) {
    this.showFrame(document.querySelector(".stripped"), Number(event.target.value));
  },
  press(event) {
    const holder = event.currentTarget;
    const box = holder.getBoundingClientRect();
    const width = holder.querySelector(".cursor").viewBox.baseVal.width;
    const x = ((event.clientX - box.left) / box.width) * width;
    const off = JSON.parse(holder.dataset.frames).map((frame) => Math.abs(frame.x - x));
    const nearest = off.indexOf(Math.min(...off));
    document.getElementById("scrub").value = nearest;
    this.showFrame(holder, nearest);
  },
  showFrame(holder, number) {
    const frame = JSON.parse(holder.dataset.frames)[number];
    holder.querySelector(".cursor path").setAttribute("transform", `translate(${frame.x} 0)`);
    holder.classList.add("marked");
    document.getElementById("scrub-says").textContent = frame.says;
  },
};
