// Sets the theme before the first paint, so that an evening page never flashes white.
(function () {
  var theme = "day";
  try {
    theme = localStorage.getItem("orthocris.theme") || "day";
  } catch (_) {
    // Storage may be blocked; the day theme is right then.
  }
  document.documentElement.dataset.theme = theme;
  document.documentElement.classList.toggle("dark", theme === "evening");
})();
