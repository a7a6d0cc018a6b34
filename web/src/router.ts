import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    { path: "/", name: "today", meta: { title: "Today" }, component: () => import("./views/trial/TodayView.vue") },
    { path: "/mix", name: "mix", meta: { title: "Mixing bench" }, component: () => import("./views/pantry/MixView.vue") },
    { path: "/yard", name: "yard", meta: { title: "The yard" }, component: () => import("./views/weather/YardView.vue") },
    { path: "/look", name: "look", meta: { title: "Find out" }, component: () => import("./views/finding/FindOutView.vue") },
    { path: "/play", name: "play", meta: { title: "A trial played through" }, component: () => import("./views/playing/PlayView.vue") },
    { path: "/practice", name: "practice", meta: { title: "Practice in counting" }, component: () => import("./views/counting/PracticeView.vue") },
    { path: "/practice/:session(\\d+)", meta: { title: "Practice in counting", field: true }, component: () => import("./views/counting/PracticeLeaves.vue"), props: (route) => ({ session: Number(route.params["session"]) }) },
    { path: "/known/:pest?", name: "known", meta: { title: "What you know by now" }, component: () => import("./views/verdict/KnownView.vue"), props: (route) => ({ pest: route.params["pest"] ? String(route.params["pest"]) : null }) },
    { path: "/p/:id(\\d+)/:plant(\\d+)", component: () => import("./views/trial/PlantLink.vue") },
    { path: "/enter", meta: { title: "Who is it?", field: true }, component: () => import("./views/door/EnterView.vue") },
    { path: "/new", name: "new", meta: { title: "A new trial" }, component: () => import("./views/trial/NewTrialView.vue") },
    {
      path: "/trial/:id(\\d+)",
      component: () => import("./views/trial/TrialView.vue"),
      props: (route) => ({ id: Number(route.params["id"]) }),
      children: [
        { path: "", redirect: (to) => ({ path: `${to.path.replace(/\/$/, "")}/question` }) },
        { path: "question", component: () => import("./views/trial/QuestionStation.vue") },
        { path: "plants", component: () => import("./views/trial/PlantsStation.vue") },
        { path: "layout", component: () => import("./views/planning/LayoutStation.vue") },
        { path: "paper", component: () => import("./views/counting/PaperView.vue") },
        { path: "patch", component: () => import("./views/field/PatchStation.vue") },
        { path: "mix", component: () => import("./views/pantry/MixStation.vue") },
        { path: "rounds", component: () => import("./views/field/RoundsStation.vue") },
        { path: "verdict", component: () => import("./views/verdict/VerdictStation.vue") },
        { path: "rest/:number(\\d+)", component: () => import("./views/field/RestView.vue"), props: (route) => ({ number: Number(route.params["number"]) }) },
        {
          path: "look/:number(\\d+)",
          component: () => import("./views/counting/CountView.vue"),
          props: (route) => ({ number: Number(route.params["number"]) }),
          meta: { field: true },
        },
        {
          path: "round/:number(\\d+)",
          component: () => import("./views/field/SprayView.vue"),
          props: (route) => ({ number: Number(route.params["number"]) }),
          meta: { field: true },
        },
      ],
    },
    { path: "/:rest(.*)*", component: () => import("./views/trial/LostView.vue") },
  ],
});
