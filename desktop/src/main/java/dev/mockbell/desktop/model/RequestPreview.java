package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.CallSetup;
import dev.mockbell.suite.Case;
import java.util.Optional;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/** The request as it would be sent, with its expressions filled and its secrets masked. */
public final class RequestPreview {
    /** What can be looked at without waiting; larger parts go out whole all the same. */
    private static final int MOST = 1 << 20;

    private final Desk desk;
    private final CallModel call;
    private final ReadOnlyStringWrapper text = new ReadOnlyStringWrapper("");
    private int asked;

    RequestPreview(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** The bytes as text, or why they cannot be made; empty before the first {@link #refresh}. */
    public ReadOnlyStringProperty textProperty() {
        return text.getReadOnlyProperty();
    }

    /** Works it out anew. */
    public void refresh() {
        call.settle();
        Optional<BoundOperation> bound = call.bound();
        if (bound.isEmpty()) {
            text.set("");
            return;
        }
        Case kept = call.currentProperty().get();
        Scope scope = call.scope();
        Optional<String> to = Optional.of(call.endpoint().address()).filter(e -> !e.isEmpty());
        int own = ++asked;
        desk.tasks()
                .run(
                        () -> preview(kept, to, scope),
                        made -> {
                            if (own == asked) {
                                text.set(made);
                            }
                        },
                        desk::tell);
    }

    private String preview(Case kept, Optional<String> to, Scope scope) {
        try {
            CallSetup usual = CallSetup.of(desk.bench(), kept, scope);
            return desk.caller().preview(to.map(usual::to).orElse(usual), MOST);
        } catch (Problem problem) {
            return problem.getMessage();
        }
    }
}
