package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.suite.Case;
import dev.mockbell.wire.CallRequest;
import dev.mockbell.wire.WireHead;
import java.nio.charset.StandardCharsets;
import java.util.Optional;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/** The request as it would be sent, with its expressions filled and its secrets masked. */
public final class RequestPreview {
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
                        () -> preview(bound.get(), kept, to, scope),
                        made -> {
                            if (own == asked) {
                                text.set(made);
                            }
                        },
                        desk::tell);
    }

    private String preview(BoundOperation bound, Case kept, Optional<String> to, Scope scope) {
        try {
            var bench = desk.bench();
            var prepared = desk.caller()
                    .prepare(
                            bound,
                            kept,
                            to,
                            scope,
                            bench.profile(kept, bound.port().name()),
                            bench.folder(),
                            CallRequest.USUAL_TIMEOUT);
            byte[] bytes = WireHead.encoded(prepared);
            return scope.redactor().wire(new String(bytes, StandardCharsets.UTF_8).replace("\r\n", "\n"));
        } catch (Problem problem) {
            return problem.getMessage();
        }
    }
}
