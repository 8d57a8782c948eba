package dev.mockbell.desktop.view.call;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.request.Delivery;
import dev.mockbell.soap.Addressing;
import dev.mockbell.suite.Case;
import dev.mockbell.wire.Framing;
import java.util.function.UnaryOperator;

/** How the request of a case is delivered, as rows of a form. */
final class DeliveryRows {
    private final CallModel model;
    private final Form form = new Form();

    DeliveryRows(CallModel model) {
        this.model = model;
    }

    Form node() {
        return form;
    }

    private void change(UnaryOperator<Delivery> change) {
        model.settle();
        Case now = model.currentProperty().get();
        Delivery other = change.apply(now.delivery());
        if (!other.equals(now.delivery())) {
            model.keep(now.withDelivery(other));
        }
        show();
    }

    private void waiting(double connect, double answer, double whole) {
        change(x -> x.with(new Delivery.Waiting(connect, answer, whole)));
    }

    /** Shows how the current case is delivered. */
    void show() {
        form.clear();
        Case now = model.currentProperty().get();
        if (now == null) {
            return;
        }
        Delivery d = now.delivery();
        form.choice(
                "WS-Addressing",
                "delivery-addressing",
                Addressing.values(),
                d.addressing(),
                a -> change(x -> x.with(a)));
        if (model.addressing().isSpoken()) {
            form.text(
                    "Answer goes to",
                    "delivery-reply-to",
                    d.replyTo(),
                    "the way that the request came",
                    t -> change(x -> x.replyingTo(t)));
        }
        form.text(
                "Encoding",
                "delivery-charset",
                d.charset().equals(Delivery.USUAL.charset()) ? "" : d.charset(),
                "UTF-8; also UTF-16, ISO-8859-1 and others",
                t -> change(x -> x.in(t.isEmpty() ? Delivery.USUAL.charset() : t)));
        form.choice(
                "Compression",
                "delivery-compression",
                Delivery.Compression.values(),
                d.compression(),
                c -> change(x -> x.with(c)));
        Framing framing = d.framing();
        form.toggle(
                "In chunks",
                "delivery-chunked",
                "without its length before it",
                framing.chunked(),
                on -> change(x -> x.with(new Framing(on, framing.expectsContinue()))));
        form.toggle(
                "Ask first",
                "delivery-expect",
                "send the body once the server wants it",
                framing.expectsContinue(),
                on -> change(x -> x.with(new Framing(framing.chunked(), on))));
        form.toggle(
                "Own connection",
                "delivery-own",
                "in place of one that is kept",
                d.ownConnection(),
                on -> change(x -> x.onOwnConnection(on)));
        form.toggle(
                "Follow",
                "delivery-follow",
                "go on to where the answer leads",
                d.follows(),
                on -> change(x -> x.following(on)));
        Delivery.Waiting w = d.waiting();
        form.seconds("Connect within", "delivery-connect", w.connect(), 30, s -> waiting(s, w.answer(), w.whole()));
        form.seconds("First byte within", "delivery-answer", w.answer(), 60, s -> waiting(w.connect(), s, w.whole()));
        form.seconds("All within", "delivery-whole", w.whole(), 600, s -> waiting(w.connect(), w.answer(), s));
    }
}
