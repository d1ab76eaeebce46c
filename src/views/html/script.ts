/**
 * What the page does beyond what a page does by itself: filters and search, kept in the address (behind the `?` of its fragment, so that it works
 * from a file); what an address leads to is opened. Without it everything is shown.
 */
export const SCRIPT = `
(() => {
  document.documentElement.classList.add("js");
  const form = document.getElementById("filter");
  const items = [...document.querySelectorAll("article[data-app]")];
  const groups = [...document.querySelectorAll("details[data-group]")];
  const opened = new Map(groups.map((group) => [group, group.open]));
  const fields = form ? [...form.elements].filter((field) => field.name) : [];
  const texts = new Map(items.map((item) => [item, item.textContent.replace(/\\s+/g, " ").toLowerCase()]));
  const apply = () => {
    const wanted = fields.filter((field) => field.value !== "").map((field) => [field.name, field.value]);
    const words = wanted.filter(([name]) => name === "q").flatMap(([, value]) => value.toLowerCase().split(/\\s+/).filter(Boolean));
    const exact = wanted.filter(([name]) => name !== "q");
    let shown = 0;
    for (const item of items) {
      const fits =
        exact.every(([name, value]) => item.dataset[name] === value || (name === "side" && !item.dataset.side)) &&
        words.every((word) => texts.get(item).includes(word));
      item.hidden = !fits;
      if (fits) shown++;
    }
    for (const group of groups) {
      group.hidden = !group.querySelector("article:not([hidden])");
      group.open = wanted.length > 0 ? !group.hidden : opened.get(group);
    }
    const count = document.getElementById("count");
    if (count) count.textContent = shown + " of " + items.length + " shown";
    return wanted;
  };
  let own = "";
  const remember = () => {
    const query = new URLSearchParams(apply()).toString();
    own = query === "" ? "#findings" : "#findings?" + query;
    if (location.hash !== own) location.replace(own);
  };
  const filterBy = (query) => {
    const values = new URLSearchParams(query);
    for (const field of fields) field.value = values.get(field.name) ?? "";
    apply();
  };
  const lead = () => {
    if (location.hash === own) return;
    own = "";
    const [id, query] = location.hash.slice(1).split(/\\?(.*)/s);
    if (query !== undefined) filterBy(query);
    const target = id && document.getElementById(id);
    if (!target) return;
    if (target.hidden) filterBy("");
    for (let at = target; at; at = at.parentElement) if (at.tagName === "DETAILS") at.open = true;
    target.scrollIntoView();
  };
  for (const link of document.querySelectorAll("a[data-filter]")) link.setAttribute("href", "#findings?" + link.dataset.filter);
  if (form) {
    form.addEventListener("input", remember);
    form.addEventListener("submit", (event) => event.preventDefault());
    form.addEventListener("reset", () => setTimeout(remember));
  }
  document.addEventListener("keydown", (event) => {
    if (event.key !== "/" || !form || /INPUT|SELECT|TEXTAREA/.test(event.target.tagName)) return;
    event.preventDefault();
    form.elements.q.focus();
  });
  const all = [...document.querySelectorAll("details")];
  let before = [];
  addEventListener("beforeprint", () => {
    before = all.map((one) => one.open);
    for (const one of all) one.open = true;
  });
  addEventListener("afterprint", () => all.forEach((one, index) => (one.open = before[index])));
  addEventListener("hashchange", lead);
  apply();
  lead();
})();
`.trim();
