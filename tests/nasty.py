"""Names that bite: markup, control characters, odd scripts, lengths."""

MARKUP = (
    "<b>bold</b>",
    "<img src='/dev/zero'>",
    "[red]Alarm[/]",
    "[/]",
    ":smile:",
    "a & b && c",
    "{0} %s %n \\n",
    "<script>alert(1)</script>",
    "&lt;&amp;",
    "[link=file:///etc]x[/link]",
)
CONTROL = ("\x1b[31mred\x1b[0m", "bell\x07", "a\tb", "line\nbreak", "\x00nul", "\x7fdel", "\x9b2J")
SCRIPTS = (
    "\u202eright to left\u202c",
    "\u200b\u200b",
    "\u00a0",
    "🎹" * 80,
    "ﷺ" * 40,
    "é" * 79,
    "\u2066isolate",
    "Z̷̡̢a̴̢l̶̡g̸̢o̷",
    "𝄞 clef",
    "名前",
)
FORMULAS = ("=1+1", "+SUM(A1)", "-2", "@cmd", '=HYPERLINK("file:///")')
NAMES = (*MARKUP, *CONTROL, *SCRIPTS, *FORMULAS, "x" * 80, "..", "/", "C:\\x", "'", '"', "1e999")
