package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Answer;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.part.XmlArea;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.inside.Kind;
import dev.mockbell.soap.NoEnvelope;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.task.StopSignal;
import java.net.URI;
import java.net.URISyntaxException;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.scene.text.TextAlignment;

/** What stands in the place of an answer's rows when there is no envelope: why, what helps, and what came all the same. */
final class OtherAnswer {
    /** What is answered to somebody who is not known, or not allowed. */
    private static final Set<Integer> LOGINS = Set.of(401, 403, 407);

    private final CallModel model;
    private final Runnable edit;
    private final Runnable login;
    private final Consumer<Face> show;
    private final Consumer<String> read;
    private final ResponseSheet sheet;
    private final XmlArea text = new XmlArea(false);
    private final StackPane body;
    private Optional<Shown> shown = Optional.empty();

    /**
     * What was shown last.
     *
     * @param parts what the node was made of; the sheet may have been shown elsewhere since
     */
    private record Shown(Answer answer, boolean mocked, VBox node, List<Node> parts) {
        boolean shows(Answer other, boolean mockedNow) {
            return other.isSame(answer) && mockedNow == mocked && parts.equals(node.getChildren());
        }
    }

    /**
     * @param body is where this stands, and a question about a certificate may
     * @param edit lets the user change where requests go
     * @param login lets the user say who calls
     * @param show shows a face of the answer
     * @param read reads a contract from an address
     */
    OtherAnswer(
            CallModel model,
            StackPane body,
            ResponseSheet sheet,
            Runnable edit,
            Runnable login,
            Consumer<Face> show,
            Consumer<String> read) {
        this.model = model;
        this.body = body;
        this.sheet = sheet;
        this.edit = edit;
        this.login = login;
        this.show = show;
        this.read = read;
        text.area().setId("answer-text");
        // an answer that is gone is not held
        model.calledProperty()
                .addListener((o, was, now) ->
                        shown = shown.filter(s -> now != null && s.answer().isSame(now.answer())));
    }

    /** What this is made of, to be practised with; the text is the one that answers are shown in. */
    List<Node> samples() {
        Button next = Parts.button("What helps", "", () -> {});
        return List.of(words("What happened. What is to be known of it.", new FlowPane(8, 8, next), false), text);
    }

    /** Shows what has become known of the answer since; what stands in its place stays. */
    void refresh() {
        if (text.getScene() != null) {
            text.show(model.faces().xml());
        }
    }

    /** What stands in the place of rows; the same as before when the answer has only been judged since, for it may just be pressed. */
    Node node(SuiteRunner.Called called) {
        boolean mocked = model.endpoint().mock().isPresent();
        if (shown.filter(s -> s.shows(called.answer(), mocked)).isEmpty()) {
            VBox node = called.answer().whole() ? other(called.answer()) : none(called);
            shown = Optional.of(new Shown(called.answer(), mocked, node, List.copyOf(node.getChildren())));
        }
        return shown.get().node();
    }

    /** Something came to its end, and is no envelope, or too large for one. */
    private VBox other(Answer answer) {
        FlowPane next = new FlowPane(8, 8);
        String flaw = answer.flaw().orElse("");
        Optional<NoEnvelope> instead = answer.instead();
        if (instead.filter(NoEnvelope::isContract).isPresent()) {
            Button add = Parts.button(
                    "Import it",
                    "Read the contract from " + answer.exchange().endpoint(),
                    () -> read.accept(answer.exchange().endpoint()));
            add.setId("import-contract");
            next.getChildren().addAll(add, endpoint());
        } else if (LOGINS.contains(answer.exchange().status())) {
            Button give = Parts.button("Say who calls", "The security profile of this case", login);
            give.setId("give-login");
            next.getChildren().add(give);
        } else if (answer.exchange().status() / 100 == 4 || answer.exchange().status() / 100 == 3) {
            next.getChildren().add(endpoint());
        }
        boolean shown = instead.isPresent()
                && instead.get().inside().kind() != Kind.EMPTY
                && !instead.get().inside().kind().isText();
        if (shown) {
            Button look = Parts.button("Look into it", "Beside this", () -> look(answer, instead.get()));
            look.setId("look-into-answer");
            next.getChildren().add(look);
        }
        VBox box = words(flaw, next, false);
        if (instead.filter(i -> i.inside().kind() == Kind.EMPTY).isPresent() || shown) {
            return box;
        }
        boolean rows = answer.content().isPresent() && !model.response().lines().isEmpty();
        if (rows) {
            return new VBox(box, Parts.tall(sheet.node()));
        }
        text.show(model.faces().xml());
        return new VBox(box, Parts.tall(text));
    }

    private void look(Answer answer, NoEnvelope instead) {
        String type = answer.exchange()
                .response()
                .flatMap(r -> r.root().header("Content-Type"))
                .orElse("");
        model.inside().open("the body", "the answer", instead.inside()::content, type);
    }

    private Button endpoint() {
        Button other = Parts.button("Change the endpoint", "Type where to send instead", edit);
        other.setId("change-endpoint");
        return other;
    }

    /** Nobody answered, or not to the end. */
    private VBox none(SuiteRunner.Called called) {
        Answer answer = called.answer();
        boolean runs = model.endpoint().mock().isPresent();
        Button mock = Parts.button(
                runs ? "Call the mock" : "Start the mock and call it",
                "It stands in for the service, for this case alone",
                () -> model.endpoint().callMock(model::sendOrStop));
        mock.setId("call-mock");
        Button again = Parts.button("Send again", "Ctrl+Enter", model::sendOrStop);
        FlowPane next = new FlowPane(8, 8, endpoint(), mock, again);
        secure(answer.exchange()).ifPresent(address -> {
            Button look =
                    Parts.button("Look at the certificate", "Asks the server for it, and sends nothing", () -> {});
            look.setOnAction(e -> look(called, address, look));
            look.setId("look-at-certificate");
            next.getChildren().add(0, look);
        });
        boolean came =
                answer.exchange().response().filter(r -> !r.wire().isEmpty()).isPresent();
        if (came) {
            Button wire =
                    Parts.button("Show what came", "Its bytes, as far as they came", () -> show.accept(Face.WIRE));
            wire.setId("show-what-came");
            next.getChildren().add(wire);
        }
        return words(answer.flaw().orElse(""), next, true);
    }

    /** What happened first, then all that is to be known of it. */
    private static VBox words(String flaw, FlowPane next, boolean alone) {
        int first = flaw.indexOf(". ") + 1;
        VBox box = new VBox(alone ? 12 : 8);
        box.getChildren().add(line(first == 0 ? flaw : flaw.substring(0, first), "strong", alone));
        if (first > 0) {
            box.getChildren().add(line(flaw.substring(first).strip(), "second", alone));
        }
        if (!next.getChildren().isEmpty()) {
            box.getChildren().add(next);
        }
        box.setPadding(new Insets(12));
        if (alone) {
            next.setAlignment(Pos.CENTER);
            box.setAlignment(Pos.CENTER);
            box.setMaxHeight(Region.USE_PREF_SIZE);
        }
        box.setMinHeight(Region.USE_PREF_SIZE);
        return box;
    }

    private static Label line(String words, String kind, boolean alone) {
        Label label = Parts.text(words, kind);
        label.setWrapText(true);
        label.setTextAlignment(alone ? TextAlignment.CENTER : TextAlignment.LEFT);
        label.setMinHeight(Region.USE_PREF_SIZE);
        label.setId(kind.equals("strong") ? "answer-flaw" : "answer-help");
        return label;
    }

    /** Asks once at a time; what comes when another answer stands there is not shown. */
    private void look(SuiteRunner.Called called, URI address, Button asked) {
        String words = asked.getText();
        StopSignal stop = model.security()
                .look(
                        address,
                        shown -> {
                            if (model.calledProperty().get() == called) {
                                body.getChildren().setAll(new CertificateQuestion(model, address, shown));
                            }
                        },
                        () -> {
                            asked.setText(words);
                            asked.setOnAction(e -> look(called, address, asked));
                        });
        asked.setText("Stop asking");
        asked.setOnAction(e -> stop.stop());
    }

    /** Where TLS was to be spoken. */
    private static Optional<URI> secure(Exchange exchange) {
        try {
            return Optional.of(new URI(exchange.endpoint()))
                    .filter(a -> "https".equalsIgnoreCase(a.getScheme()) && a.getHost() != null);
        } catch (URISyntaxException noAddress) {
            return Optional.empty();
        }
    }
}
