package dev.mockbell.suite;

import dev.mockbell.check.Capture;
import dev.mockbell.check.Check;
import dev.mockbell.content.Header;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** Where a case or a suite uses a variable, and how it is called by another name there. */
public final class VariableUse {
    private VariableUse() {}

    private static Pattern of(String variable) {
        return Pattern.compile("\\$" + Pattern.quote(variable) + "(?![\\p{L}\\p{N}_.-])");
    }

    /** Whether the request, the checks or the captures of a case use a variable. */
    public static boolean in(Case kept, String variable) {
        return !renamed(kept, variable, variable + "0").equals(kept);
    }

    /** The case with a variable by another name wherever it is used. */
    public static Case renamed(Case kept, String variable, String other) {
        Pattern pattern = of(variable);
        String by = Matcher.quoteReplacement("$" + other);
        List<Header> headers = kept.headers().stream()
                .map(h -> new Header(h.name(), within(h.value(), pattern, by)))
                .toList();
        List<Check> checks = kept.checks().stream()
                .map(c -> c.accept(new Renaming(pattern, by)))
                .toList();
        List<Capture> captures = new ArrayList<>();
        for (Capture c : kept.captures()) {
            captures.add(new Capture(c.name(), pattern.matcher(c.path()).replaceAll(by), c.takes(), c.fromRequest()));
        }
        return kept.withBody(within(kept.body(), pattern, by))
                .withSoapHeaders(within(kept.soapHeaders(), pattern, by))
                .withHeaders(headers)
                .withChecks(checks)
                .withCaptures(captures);
    }

    /** Whether the conditions, the values or the tables of a suite's steps use a variable. */
    public static boolean in(Suite suite, String variable) {
        return !renamed(suite, variable, variable + "0").equals(suite);
    }

    /** The suite with a variable by another name wherever its steps use it. */
    public static Suite renamed(Suite suite, String variable, String other) {
        Pattern pattern = of(variable);
        String by = Matcher.quoteReplacement("$" + other);
        StepVariables steps = new StepVariables(x -> pattern.matcher(x).replaceAll(by), t -> within(t, pattern, by));
        return new Suite(
                suite.id(),
                suite.title(),
                steps.all(suite.setUp()),
                steps.all(suite.steps()),
                steps.all(suite.cleanUp()));
    }

    /** In the expressions of a text alone: what stands outside braces means itself. */
    private static String within(String text, Pattern pattern, String by) {
        if (text.indexOf('{') < 0 || !pattern.matcher(text).find()) {
            return text;
        }
        StringBuilder out = new StringBuilder();
        int depth = 0;
        int from = 0;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean doubled = depth == 0 && i + 1 < text.length() && text.charAt(i + 1) == c;
            if (doubled && (c == '{' || c == '}')) {
                i++;
            } else if (c == '{' && depth++ == 0) {
                out.append(text, from, i);
                from = i;
            } else if (c == '}' && depth > 0 && --depth == 0) {
                out.append(pattern.matcher(text.substring(from, i)).replaceAll(by));
                from = i;
            }
        }
        return out.append(text, from, text.length()).toString();
    }

    /** Each kind of check with the variable by its other name. */
    private record Renaming(Pattern pattern, String by) implements Check.Visitor<Check> {
        private String xpath(String text) {
            return pattern.matcher(text).replaceAll(by);
        }

        private String text(String text) {
            return VariableUse.within(text, pattern, by);
        }

        @Override
        public Check valid(Check.Valid check) {
            return check;
        }

        @Override
        public Check noFault(Check.NoFault check) {
            return check;
        }

        @Override
        public Check fault(Check.FaultIs check) {
            return check;
        }

        @Override
        public Check value(Check.Value check) {
            return new Check.Value(xpath(check.path()), text(check.expected()), check.tolerance());
        }

        @Override
        public Check condition(Check.Condition check) {
            return new Check.Condition(xpath(check.xpath()));
        }

        @Override
        public Check within(Check.Within check) {
            return check;
        }

        @Override
        public Check text(Check.MessageText check) {
            return new Check.MessageText(check.match(), wanted(check.match(), check.wanted()));
        }

        private String wanted(Check.Match match, String wanted) {
            return match == Check.Match.MATCHES ? wanted : text(wanted);
        }

        @Override
        public Check header(Check.HeaderIs check) {
            return new Check.HeaderIs(check.name(), check.match(), wanted(check.match(), check.wanted()));
        }

        @Override
        public Check status(Check.StatusIs check) {
            return check;
        }

        @Override
        public Check size(Check.SizeAtMost check) {
            return check;
        }

        @Override
        public Check baseline(Check.SameAsBaseline check) {
            return check;
        }

        @Override
        public Check present(Check.Present check) {
            return new Check.Present(xpath(check.path()));
        }

        @Override
        public Check count(Check.Count check) {
            return new Check.Count(xpath(check.path()), check.from(), check.to());
        }

        @Override
        public Check each(Check.Each check) {
            return new Check.Each(xpath(check.path()), check.all(), xpath(check.holds()));
        }

        @Override
        public Check items(Check.Items check) {
            return new Check.Items(
                    xpath(check.path()), check.wanted().stream().map(this::text).toList(), check.inOrder());
        }

        @Override
        public Check partCount(Check.PartCount check) {
            return check;
        }

        @Override
        public Check part(Check.PartIs check) {
            return new Check.PartIs(check.part(), check.fact(), text(check.wanted()));
        }

        @Override
        public Check secured(Check.Secured check) {
            return check;
        }

        @Override
        public Check not(Check.Not check) {
            return new Check.Not(check.of().accept(this));
        }

        @Override
        public Check stopping(Check.Stopping check) {
            return new Check.Stopping(check.of().accept(this));
        }
    }
}
