// @vitest-environment jsdom
import { expect, it } from "vitest";
import { conditionChoices, questionFor } from "./conditions";

it("offers what each kind of field can be asked, each field once, yes and no first", () => {
  const html =
    '<p><input name="skipper" title="Skipper"><input name="nights" type="number"><select name="quay" title="Quay"><option value="12.50">A</option><option>B "north"</option></select>' +
    '<input name="insured" title="Insured" type="checkbox"><input name="insured" type="checkbox"><input name="day" type="date"></p>';
  expect(conditionChoices(html)).toEqual([
    { formula: "insured", label: "Insured: yes" },
    { formula: "not insured", label: "Insured: no" },
    { formula: 'quay = "12.50"', label: "Quay is A" },
    { formula: "quay = 'B \"north\"'", label: 'Quay is B "north"' },
    { formula: "nights > 0", label: "nights is more than 0" },
    { formula: "nights > 1", label: "nights is more than 1" },
    { formula: 'day <> ""', label: "day is answered" },
    { formula: 'day = ""', label: "day is empty" },
    { formula: 'skipper <> ""', label: "Skipper is answered" },
    { formula: 'skipper = ""', label: "Skipper is empty" },
  ]);
  expect(conditionChoices("<p>nothing asked</p>")).toEqual([]);
});

it("makes a question of a passage's own first words", () => {
  const question = questionFor("Please bring the insurance papers.", ["wanted"]);
  expect(question.name).toBe("wanted2");
  expect(question.html).toBe('<input name="wanted2" title="“Please bring the insurance …”?" type="checkbox">');
  expect(questionFor(" ", []).html).toContain("Put this in?");
});
