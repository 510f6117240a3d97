// Runs before anything is painted, so that the night theme does not flash up as day.
(function () {
  try {
    var chosen = localStorage.getItem("bandeja.theme");
    if (chosen) document.documentElement.dataset.theme = chosen;
  } catch { /* no storage: the theme that the system prefers */ }
})();
