// Sets the theme before the first paint, so that an evening page never flashes white.
(function () {
  var theme = window.matchMedia && window.matchMedia("(prefers-color-scheme: dark)").matches ? "evening" : "day";
  try {
    theme = localStorage.getItem("orthocris.theme") || theme;
  } catch (_) {
    // Storage may be blocked; what the system prefers is right then.
  }
  document.documentElement.dataset.theme = theme;
  document.documentElement.classList.toggle("dark", theme === "evening");
})();
