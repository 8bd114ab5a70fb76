// @vitest-environment jsdom
import { expect, it } from "vitest";
import { bodyWords } from "./bodyWords";

it.each([
  ["<p>One <strong>two</strong></p><p>three<br>four</p>", "One two\nthree\nfour"],
  ["<ul><li><p>a</p></li><li><p>b</p></li></ul>", "a\nb"],
  ["<table><tbody><tr><td>a</td><td>b</td></tr></tbody></table>", "a | b"],
  ['<p>Dear <input name="skipper" title="Skipper">,</p>', "Dear ⟨Skipper⟩,"],
  ['<p><time data-pattern="d MMMM"></time></p>', "⟨date or time: d MMMM⟩"],
  ['<p>a<kbd>Tab</kbd><slot name="go-to" data-app="log-book" data-field="Log"></slot>b</p>', "a⟨Tab⟩⟨go to Log⟩b"],
  ['<p>Fee <output data-formula="nights * 2"></output></p>', "Fee ⟨nights * 2⟩"],
  ['<p><img src="media:1" alt="the fairway"></p>', "⟨picture: the fairway⟩"],
  ["", ""],
])("%s", (html, words) => expect(bodyWords(html)).toBe(words));
