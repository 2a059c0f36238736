import { expect, test } from "vitest";
import { Course } from "../src/audio/course";

test("a tempo holds from its tick on, and what was before stays where it was", () => {
  const course = new Course();
  course.begin(0, 10, 960);
  expect([course.tickAt(11), course.timeAt(1920)]).toEqual([960, 12]);
  course.change(1920, 1920);
  expect([course.timeAt(1920), course.timeAt(3840), course.tickAt(13.5), course.rate]).toEqual([12, 13, 4800, 1920]);
  course.change(3840, 480);
  expect([10.5, 12, 12.5, 13, 15].map((time) => course.tickOf(time))).toEqual([480, 1920, 2880, 3840, 4800]);
  course.begin(100, 20, 10);
  expect(course.tickOf(19)).toBe(90);
});
