package dev.mockbell.sheet;

import dev.mockbell.schema.Occurs;
import dev.mockbell.sheet.SheetRow.Kind;
import dev.mockbell.sheet.SheetRow.State;
import dev.mockbell.sheet.SheetRow.Tally;
import dev.mockbell.sheet.SheetRow.Target;
import java.util.List;
import java.util.Optional;

/** A row while it is put together; what is not said is empty, present, and stands once. */
final class RowDraft {
    private final String id;
    private final Kind kind;
    private final String label;
    private State state = State.PRESENT;
    private String value = "";
    private String type = "";
    private Occurs occurs = Occurs.ONCE;
    private int index;
    private int count = 1;
    private Optional<String> problem = Optional.empty();
    private List<String> options = List.of();
    private String documentation = "";
    private List<SheetRow> children = List.of();

    RowDraft(String id, Kind kind, String label) {
        this.id = id;
        this.kind = kind;
        this.label = label;
    }

    RowDraft state(State given) {
        state = given;
        return this;
    }

    RowDraft value(String given) {
        value = given;
        return this;
    }

    RowDraft type(String given) {
        type = given;
        return this;
    }

    RowDraft occurs(Occurs given) {
        occurs = given;
        return this;
    }

    RowDraft number(int which, int of) {
        index = which;
        count = of;
        return this;
    }

    RowDraft problem(Optional<String> given) {
        problem = given;
        return this;
    }

    RowDraft options(List<String> given) {
        options = given;
        return this;
    }

    RowDraft documentation(String given) {
        documentation = given;
        return this;
    }

    RowDraft over(List<SheetRow> given) {
        children = given instanceof LaterRows ? given : List.copyOf(given);
        return this;
    }

    SheetRow at(Target target) {
        boolean optional = occurs.optional() && kind != Kind.WILDCARD;
        List<SheetRow> counted = children instanceof LaterRows ? List.of() : children;
        Tally tally = Tally.of(label, state, optional, problem, counted);
        return new SheetRow(
                id,
                kind,
                label,
                state,
                value,
                type,
                occurs,
                index,
                count,
                problem,
                options,
                documentation,
                children,
                tally,
                target);
    }
}
