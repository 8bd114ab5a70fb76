// Packs of texts of our own.

const licence = "CC0 1.0";
const source = "written for Dash Sprout";
const plainKeys = [" ", "Tab", "Enter"];

const after = (text) => ({ kind: "abbreviation", text, timing: "closing-key", keepClosingKey: false });

/** A snippet: its abbreviation is its key. */
const html = (abbreviation, name, body, more = {}) => ({ name, body, key: abbreviation, triggers: [after(abbreviation)], ...more });

const date = (abbreviation, name, pattern, more = "") => html(abbreviation, name, `<p><time data-pattern="${pattern}"${more}></time></p>`);

const dates = {
  id: "dates",
  about: "Today, tomorrow, in two weeks, the end of the month, the week's number: dates in the forms that people write.",
  licence,
  source,
  library: {
    name: "Dates and times",
    closingKeys: plainKeys,
    folders: [
      {
        name: "Today",
        key: "today",
        snippets: [
          date(";today", "Today", "d MMMM y"),
          date(";day", "Today with its day", "EEEE d MMMM y"),
          date(";iso", "Today as ISO 8601", "yyyy-MM-dd"),
          date(";short", "Today in figures", "dd/MM/yyyy"),
          date(";time", "The time", "HH:mm"),
          date(";now", "Date and time", "yyyy-MM-dd HH:mm"),
          date(";week", "The number of the week", "'week' w"),
          date(";year", "The year", "y"),
        ],
      },
      {
        name: "Soon",
        key: "soon",
        snippets: [
          date(";tomorrow", "Tomorrow", "EEEE d MMMM", ' data-shift="P1D"'),
          date(";yesterday", "Yesterday", "EEEE d MMMM", ' data-shift="-P1D"'),
          date(";nextwork", "The next working day", "EEEE d MMMM", ' data-shift="P1D" data-days="working"'),
          date(";in1w", "In a week", "d MMMM y", ' data-shift="P7D"'),
          date(";in2w", "In two weeks", "d MMMM y", ' data-shift="P14D"'),
          date(";in1m", "In a month", "d MMMM y", ' data-shift="P1M"'),
          date(";eow", "The end of this week", "d MMMM y", ' data-snap="end-of-week"'),
          date(";eom", "The end of this month", "d MMMM y", ' data-snap="end-of-month"'),
          date(";nextmon", "Next Monday", "EEEE d MMMM", ' data-snap="next-monday"'),
        ],
      },
    ],
  },
};

const text = (abbreviation, name, words) => ({ name, text: words, key: abbreviation, triggers: [after(abbreviation)] });

const markdown = {
  id: "markdown",
  about: "Links, tables, code and tasks in Markdown; what was selected, or the caret, is where it belongs.",
  licence,
  source,
  library: {
    name: "Markdown",
    closingKeys: plainKeys,
    snippets: [
      html(";mlink", "Link", '<p>[<slot name="selection">words</slot>](<wbr data-caret>)</p>'),
      html(";mpic", "Picture", '<p>![<slot name="selection">what it shows</slot>](<wbr data-caret>)</p>'),
      html(";mcode", "Code in a line", '<p>`<slot name="selection"></slot><wbr data-caret>`</p>'),
      html(";mblock", "Code block", '<p>```<wbr data-caret><br><slot name="selection"></slot><br>```</p>'),
      html(";mquote", "Quotation", '<p>&gt; <slot name="selection"></slot><wbr data-caret></p>'),
      text(";mtask", "Task", "- [ ] "),
      text(";mdone", "Task done", "- [x] "),
      text(";mtable", "Table of two columns", "| Name | Value |\n| --- | --- |\n|  |  |"),
      text(";mrule", "Rule", "\n---\n"),
      html(";mfold", "Folded part", '<p>&lt;details&gt;&lt;summary&gt;<wbr data-caret>&lt;/summary&gt;<br><br><slot name="selection"></slot><br><br>&lt;/details&gt;</p>'),
      html(";mfoot", "Footnote", "<p>[^1]<wbr data-caret></p>"),
    ],
  },
};

const reply = (abbreviation, name, ...paragraphs) => html(abbreviation, name, paragraphs.map((words) => `<p>${words}</p>`).join(""));
const name = '<input name="name" title="Name">';

const replies = {
  id: "polite-replies",
  about: "Thanks, apologies, reminders and refusals that stay friendly, with a name to fill in.",
  licence,
  source,
  library: {
    name: "Polite replies",
    closingKeys: plainKeys,
    folders: [
      {
        name: "Answers",
        key: "answers",
        snippets: [
          reply(";thx", "Thank you", `Dear ${name},`, "Thank you for your message. <wbr data-caret>"),
          reply(";gotit", "It has arrived", `Dear ${name},`, "Your message has reached us. We look into it and write again by <time data-pattern=\"EEEE d MMMM\" data-shift=\"P2D\" data-days=\"working\"></time>."),
          reply(";sorry", "Apology for a delay", `Dear ${name},`, "Please excuse that you have waited for an answer. <wbr data-caret>"),
          reply(";asked", "Asking for more", `Dear ${name},`, "So that we can help, please tell us <wbr data-caret>."),
          reply(";done", "It is done", `Dear ${name},`, "What you asked for is done. Please tell us if anything is missing."),
          reply(";wrongplace", "Somebody else can help", `Dear ${name},`, 'This is a matter for <input name="office" title="Who can help">, to whom we have passed your message on.'),
        ],
      },
      {
        name: "Requests",
        key: "requests",
        snippets: [
          reply(";remind", "Reminder", `Dear ${name},`, 'May we remind you of our message of <input name="date" type="date" title="Written on">? <wbr data-caret>'),
          reply(";meet", "Proposal of a day", `Dear ${name},`, 'Would <input name="day" title="Day and time"> suit you? Otherwise please name a day that does.'),
          reply(";no", "Friendly refusal", `Dear ${name},`, "We are sorry that we cannot do what you ask: <wbr data-caret>. Thank you for understanding."),
          reply(";attach", "Something is attached", `Dear ${name},`, 'You will find <input name="what" title="What is attached"> with this message.'),
        ],
      },
      {
        name: "Endings",
        key: "endings",
        snippets: [
          text(";kr", "Kind regards", "Kind regards,"),
          text(";bw", "Best wishes", "Best wishes,"),
          text(";lf", "Looking forward", "We look forward to hearing from you."),
          text(";any", "Any questions", "If anything is unclear, please write to us."),
        ],
      },
    ],
  },
};

const oneOf = (abbreviation, title, ...choices) =>
  html(abbreviation, title, `<p><menu data-pick="random">${choices.map((choice) => `<li>${choice}</li>`).join("")}</menu></p>`);

const smallTalk = {
  id: "small-talk",
  about: "Openings, questions and farewells for a chat: each time another one of several.",
  licence,
  source,
  library: {
    name: "Small talk",
    closingKeys: plainKeys,
    snippets: [
      oneOf(";hi", "Opening", "Good to hear from you.", "Hello there, how are things?", "Hello! What can I do for you?", "Nice that you write."),
      oneOf(";how", "How is it going", "How was your week?", "How is the weather where you are?", "Did you have a good start into the day?", "Anything new on your side?"),
      oneOf(";ask", "A question to go on with", "What are you looking forward to?", "What kept you busy lately?", "Have you read or heard anything good?", "Is there a place you would like to see again?", "What do you do when the rain will not stop?"),
      oneOf(";wait", "A moment, please", "One moment, I am looking.", "Just a moment, please.", "Let me see.", "I am on it."),
      oneOf(";bye", "Farewell", "Until soon!", "Have a good day.", "All the best.", "It was nice to hear from you."),
      oneOf(";ok", "Agreed", "That suits me.", "Agreed.", "Good, let us do that.", "Fine by me."),
    ],
  },
};

export const ownPacks = [dates, markdown, replies, smallTalk];
