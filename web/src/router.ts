import { createRouter, createWebHistory } from "vue-router";

export const router = createRouter({
  history: createWebHistory(),
  scrollBehavior: (_to, _from, saved) => saved ?? { top: 0 },
  routes: [
    { path: "/", name: "today", meta: { title: "Today" }, component: () => import("./views/TodayView.vue") },
    { path: "/mix", name: "mix", meta: { title: "Mixing bench" }, component: () => import("./views/MixView.vue") },
    { path: "/yard", name: "yard", meta: { title: "The yard" }, component: () => import("./views/YardView.vue") },
    { path: "/look", name: "look", meta: { title: "Find out" }, component: () => import("./views/FindOutView.vue") },
    { path: "/p/:id(\\d+)/:plant(\\d+)", component: () => import("./views/PlantLink.vue") },
    { path: "/new", name: "new", meta: { title: "A new trial" }, component: () => import("./views/NewTrialView.vue") },
    {
      path: "/trial/:id(\\d+)",
      component: () => import("./views/TrialView.vue"),
      props: (route) => ({ id: Number(route.params["id"]) }),
      children: [
        { path: "", redirect: (to) => ({ path: `${to.path.replace(/\/$/, "")}/question` }) },
        { path: "question", component: () => import("./views/stations/QuestionStation.vue") },
        { path: "plants", component: () => import("./views/stations/PlantsStation.vue") },
        { path: "layout", component: () => import("./views/stations/LayoutStation.vue") },
        { path: "patch", component: () => import("./views/stations/PatchStation.vue") },
        { path: "mix", component: () => import("./views/stations/MixStation.vue") },
        { path: "rounds", component: () => import("./views/stations/RoundsStation.vue") },
        { path: "verdict", component: () => import("./views/stations/VerdictStation.vue") },
        {
          path: "look/:number(\\d+)",
          component: () => import("./views/stations/CountView.vue"),
          props: (route) => ({ number: Number(route.params["number"]) }),
          meta: { field: true },
        },
        {
          path: "round/:number(\\d+)",
          component: () => import("./views/stations/SprayView.vue"),
          props: (route) => ({ number: Number(route.params["number"]) }),
          meta: { field: true },
        },
      ],
    },
    { path: "/:rest(.*)*", component: () => import("./views/LostView.vue") },
  ],
});
