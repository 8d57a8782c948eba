package dev.mockbell.desktop.model;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.MessageText;
import dev.mockbell.redact.Redactor;
import dev.mockbell.suite.SuiteRunner;
import java.util.List;
import java.util.Optional;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.SimpleIntegerProperty;

/** The faces of the last answer besides its sheet, worked out when they are looked at. */
public final class AnswerFaces {
    private final Desk desk;
    private final CallModel call;
    private final IntegerProperty changes = new SimpleIntegerProperty();
    private final Derived<Same<SuiteRunner.Called>, String> laidOut;
    private final Derived<Wire, String> wires;
    private final Derived<Same<Exchange>, Boolean> masking;

    AnswerFaces(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
        this.laidOut = new Derived<>(desk.tasks(), 4, c -> laidOut(c.thing()), desk::tell);
        this.wires = new Derived<>(desk.tasks(), 4, Wire::text, desk::tell);
        this.masking = new Derived<>(desk.tasks(), 4, e -> isMasking(e.thing()), desk::tell);
        for (Derived<?, ?> face : List.of(laidOut, wires, masking)) {
            face.changesProperty().addListener((o, was, now) -> changes.set(changes.get() + 1));
        }
    }

    /** The whole envelope of the last answer, laid out; empty while that is being done. */
    public String xml() {
        return Optional.ofNullable(call.calledProperty().get())
                .flatMap(c -> laidOut.of(new Same<>(c)))
                .orElse("");
    }

    private static String laidOut(SuiteRunner.Called of) {
        Exchange exchange = of.answer().exchange();
        return exchange.response()
                .map(r -> MessageText.toLookAt(Optional.empty()).body(r))
                .orElse(exchange.note());
    }

    /** The bytes of both sides, as text; empty while it is being made. */
    public String wire() {
        return call.exchange().flatMap(e -> wires.of(wireOf(e))).orElse("");
    }

    /** Whether what {@link #wire} shows has something to mask. */
    public boolean isMasking() {
        return call.exchange().flatMap(e -> masking.of(new Same<>(e))).orElse(false);
    }

    private boolean isMasking(Exchange e) {
        String shown = MessageText.toLookAt(Optional.of(desk.redactor())).wires(e);
        return !shown.equals(MessageText.toLookAt(Optional.empty()).wires(e));
    }

    private Wire wireOf(Exchange e) {
        return new Wire(new Same<>(e), desk.maskedProperty().get() ? Optional.of(desk.redactor()) : Optional.empty());
    }

    /** A thing by itself, not by what it holds: equality of whole messages would cost more than what is asked for. */
    private record Same<T>(T thing) {
        @Override
        public boolean equals(Object other) {
            return other instanceof Same<?> same && same.thing == thing;
        }

        @Override
        public int hashCode() {
            return System.identityHashCode(thing);
        }
    }

    private record Wire(Same<Exchange> exchange, Optional<Redactor> redactor) {
        String text() {
            return MessageText.toLookAt(redactor).wires(exchange.thing());
        }
    }

    /** Grows when one of the faces of the answer has come. */
    public IntegerProperty changesProperty() {
        return changes;
    }
}
