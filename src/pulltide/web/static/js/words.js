// What the scripts say, in the language of the page. Without a catalog it is said as it is written here.
const catalog = JSON.parse(document.documentElement.dataset.words || "{}");

function said(text, put = {}) {
  return (catalog[text] || text).replace(/\{(\w+)\}/g, (place, name) => (name in put ? put[name] : place));
}
