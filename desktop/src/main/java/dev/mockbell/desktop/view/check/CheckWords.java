package dev.mockbell.desktop.view.check;

import dev.mockbell.check.Check;

/** Each check in the fewest words, for a line that holds many. */
final class CheckWords implements Check.Visitor<String> {
    @Override
    public String valid(Check.Valid check) {
        return "valid";
    }

    @Override
    public String noFault(Check.NoFault check) {
        return "no fault";
    }

    @Override
    public String fault(Check.FaultIs check) {
        return check.name().isEmpty() ? "some fault" : "fault " + check.name();
    }

    @Override
    public String value(Check.Value check) {
        return check.title();
    }

    @Override
    public String condition(Check.Condition check) {
        return check.title();
    }

    @Override
    public String within(Check.Within check) {
        return "within " + check.millis() + " ms";
    }
}
