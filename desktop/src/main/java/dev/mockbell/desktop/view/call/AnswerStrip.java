package dev.mockbell.desktop.view.call;

import dev.mockbell.check.Answer;
import dev.mockbell.check.CheckResult;
import dev.mockbell.check.Remarks;
import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.Moments;
import dev.mockbell.desktop.part.Mark;
import dev.mockbell.desktop.part.Parts;
import dev.mockbell.desktop.view.shared.Face;
import dev.mockbell.desktop.view.shared.Numbers;
import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Exchange.Outcome;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.Secured;
import dev.mockbell.suite.SuiteRunner;
import dev.mockbell.validation.MessageValidator.Breach;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javafx.beans.InvalidationListener;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Label;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** What came back in a few words: status, time, size, validity, parts, security; below, whatever is to be said of it. */
final class AnswerStrip extends VBox {
    /** Sentences that stand here; the others are in the last one's note. */
    private static final int MOST = 3;

    private static final String VALIDITY = "answer-validity";

    /** Status, time and size, which stand before what is judged. */
    private static final int MEASURES = 3;

    private final CallModel model;
    private final Consumer<Face> show;
    private final Consumer<String> reveal;
    private final FlowPane facts = new FlowPane(12, 3);
    private SuiteRunner.Called shown;
    private Remarks told;

    /**
     * @param show shows a face of the answer
     * @param reveal shows the row at a path
     */
    AnswerStrip(CallModel model, Consumer<Face> show, Consumer<String> reveal) {
        super(3);
        this.model = model;
        this.show = show;
        this.reveal = reveal;
        setId("answer-strip");
        setPadding(new Insets(6, 12, 6, 12));
        setMinHeight(30);
        setAlignment(Pos.CENTER_LEFT);
        facts.setRowValignment(javafx.geometry.VPos.CENTER);
        getStyleClass().add("ruled");
        model.calledProperty().addListener((InvalidationListener) o -> show());
        model.faces().changesProperty().addListener((InvalidationListener) o -> show());
        show();
    }

    /** What a strip is made of, to be practised with. */
    static Node sample() {
        VBox box = new VBox(3);
        box.getStyleClass().add("ruled");
        FlowPane line = new FlowPane(12, 3);
        line.getChildren()
                .addAll(
                        Parts.text("status", "strong", "fine"),
                        quiet("time", "second"),
                        Parts.marked(Mark.PASSED, "valid", "fine"),
                        quiet("when", "third"));
        box.getChildren().addAll(line, Parts.marked(Mark.FAULT, "what is to be said", "second", "table-text"));
        return box;
    }

    private void show() {
        SuiteRunner.Called called = model.calledProperty().get();
        Remarks remarks = model.faces().remarks().orElse(Remarks.NONE);
        if (called != shown) {
            boolean stays = called != null && shown != null && saysTheSame(called.answer(), shown.answer());
            shown = called;
            told = null;
            if (!stays) {
                facts.getChildren().clear();
                getChildren().clear();
                if (called != null) {
                    facts(called.answer());
                    getChildren().add(facts);
                }
            }
        }
        if (called != null && remarks != told) {
            told = remarks;
            judged(called, remarks);
        }
    }

    private static boolean saysTheSame(Answer now, Answer before) {
        return now.isSame(before)
                && now.exchange().outcome() == before.exchange().outcome();
    }

    private void facts(Answer answer) {
        Exchange e = answer.exchange();
        facts.getChildren()
                .addAll(
                        status(answer),
                        quiet(Numbers.millis(e.timing().total() / 1e6) + " ms", "second"),
                        quiet(Numbers.bytes(size(e)), "second"));
        int parts = e.response().map(r -> r.attachments().size()).orElse(0);
        if (parts > 0) {
            Node link = Parts.link(
                    parts == 1 ? "1 part" : parts + " parts",
                    "What came beside the envelope",
                    () -> show.accept(Face.PARTS));
            link.setId("answer-parts-count");
            facts.getChildren().add(link);
        }
        e.secured().ifPresent(s -> facts.getChildren().add(secured(s)));
        facts.getChildren().add(quiet(Moments.toTheSecond(e.started()), "third"));
    }

    /** Says how the answer is judged, once that is known; what stands beside it stays, for it may just be pressed. */
    private void judged(SuiteRunner.Called called, Remarks remarks) {
        facts.getChildren().removeIf(n -> VALIDITY.equals(n.getId()));
        if (called.answer().exchange().outcome() != Outcome.FAULT && remarks.judged()) {
            facts.getChildren().add(MEASURES, validity(remarks));
        }
        getChildren().remove(1, getChildren().size());
        notes(called, remarks);
    }

    /** Of the body as it reads; how it was coded for the way is seen in the wire. */
    private static long size(Exchange e) {
        return e.response().map(Message::body).map(b -> b.size()).orElse(0L);
    }

    private static Label status(Answer answer) {
        Exchange e = answer.exchange();
        String words = e.response()
                .map(r -> answer.whole() ? r.title().replaceFirst("^HTTP/\\S+ ", "") : "no whole answer")
                .orElse("no answer");
        boolean good = e.outcome() == Outcome.FINE || answer.whole() && e.status() / 100 == 2;
        Label status = Parts.text(words, "strong", e.outcome() == Outcome.FAULT ? "fault" : good ? "fine" : "failed");
        status.setId("status");
        status.setMaxWidth(260);
        return status;
    }

    private Node validity(Remarks remarks) {
        int count = remarks.breaches().size();
        Label valid = count == 0
                ? Parts.marked(Mark.PASSED, "valid", "fine")
                : Parts.marked(Mark.FAILED, count == 1 ? "1 breach" : count + " breaches", "failed");
        valid.setId(VALIDITY);
        Parts.tip(valid, count == 0 ? "It is as the contract says" : "It is not as the contract says");
        return valid;
    }

    private static Label secured(Secured tls) {
        Label label = quiet(tls.version().replaceFirst("^TLSv", "TLS "), "tag");
        label.setId("answer-tls");
        Parts.tip(label, tls.version() + ", " + tls.cipher() + "\n" + String.join("\n", tls.chain()));
        return label;
    }

    /** Not to be cut where room is short. */
    private static Label quiet(String words, String kind) {
        Label label = Parts.text(words, kind);
        label.setMinWidth(Region.USE_PREF_SIZE);
        return label;
    }

    private void notes(SuiteRunner.Called called, Remarks remarks) {
        Answer answer = called.answer();
        // which checks fail stands beside them
        boolean checks = called.result().checks().stream().allMatch(CheckResult::passed);
        Exchange e = answer.exchange();
        if (e.outcome() == Outcome.FAULT) {
            line(Mark.FAULT, "fault", e.note()).setId("answer-fault");
        } else if (!e.note().isEmpty() && answer.whole() && answer.flaw().isEmpty() && checks) {
            line(e.outcome() == Outcome.FINE ? Mark.PASSED : Mark.FAILED, "second", e.note())
                    .setId("answer-note");
        }
        List<String> others = remarks.others();
        remarks.breaches().stream().limit(MOST).forEach(this::breach);
        others.stream().limit(MOST).forEach(o -> line(Mark.FAULT, "second", o));
        int more = Math.max(0, remarks.breaches().size() - MOST) + Math.max(0, others.size() - MOST);
        if (more > 0) {
            Label label = Parts.text("and " + more + " more", "third", "table-text");
            Parts.tip(
                    label,
                    () -> Stream.concat(
                                    remarks.breaches().stream().skip(MOST).map(Breach::text),
                                    others.stream().skip(MOST))
                            .limit(20)
                            .collect(Collectors.joining("\n")));
            getChildren().add(label);
        }
    }

    private Label line(Mark mark, String kind, String words) {
        Label label = Parts.marked(mark, words, kind, "table-text");
        label.setWrapText(true);
        label.setMaxHeight(48);
        Parts.tip(label, words);
        getChildren().add(label);
        return label;
    }

    private void breach(Breach breach) {
        Label text = Parts.marked(Mark.FAILED, breach.text(), "table-text");
        text.setWrapText(true);
        text.setMaxHeight(48);
        Parts.tip(text, breach.text());
        HBox line = new HBox(8, Parts.wide(text));
        line.setAlignment(Pos.TOP_LEFT);
        if (!breach.path().isEmpty()) {
            Node where = Parts.link("show", "Its row: " + breach.path(), () -> reveal.accept(breach.path()));
            where.getStyleClass().add("table-text");
            line.getChildren().add(where);
        }
        getChildren().add(line);
    }
}
