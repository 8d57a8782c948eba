package dev.mockbell.desktop.view.mock;

import dev.mockbell.content.Header;
import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.AnswerHead;
import dev.mockbell.mock.AnswerHead.AnswerPart;
import dev.mockbell.mock.MockAnswer;
import java.util.List;
import java.util.function.Consumer;
import javafx.geometry.Insets;
import javafx.scene.control.TextArea;
import javafx.scene.layout.VBox;

/** What goes with an answer beside its content: status, fields, header blocks and files. */
final class HeadForm {
    private static final double NAME = 170;
    private static final double TYPE = 120;

    private final Consumer<MockAnswer> keep;

    HeadForm(Consumer<MockAnswer> keep) {
        this.keep = keep;
    }

    void show(Form form, MockAnswer answer) {
        form.clear();
        AnswerHead head = answer.head();
        form.heading("HTTP");
        form.number("Status", "mock-status", head.status(), "as SOAP has it", status -> {
            if (status == 0 || status >= 200 && status <= 599) {
                keep.accept(answer.with(head.withStatus(status)));
            }
        });
        new RowList<Header>(
                        "mock-field",
                        List.of(
                                new RowList.Column<>("name", NAME, Header::name),
                                new RowList.Column<>("value, with {expressions}", 0, Header::value)),
                        texts -> new Header(texts.get(0), texts.get(1)),
                        fields -> keep.accept(answer.with(head.withFields(fields))))
                .show(form, head.fields(), "Add a field", new Header("X-", ""));
        form.heading("SOAP header blocks");
        TextArea blocks = new TextArea(head.blocks());
        blocks.setId("mock-blocks");
        blocks.getStyleClass().add("mono");
        blocks.setPrefRowCount(4);
        blocks.setPromptText("XML with {expressions}; nothing for samples of those that the contract declares");
        blocks.focusedProperty().addListener((o, was, now) -> {
            if (was && !now && !blocks.getText().equals(head.blocks())) {
                keep.accept(answer.with(head.withBlocks(blocks.getText())));
            }
        });
        VBox around = new VBox(blocks);
        around.setPadding(new Insets(6, 12, 8, 12));
        form.getChildren().add(around);
        form.heading("Files beside the envelope");
        new RowList<AnswerPart>(
                        "mock-part",
                        List.of(
                                new RowList.Column<>("Content-ID", NAME, AnswerPart::id),
                                new RowList.Column<>("file, from the project's folder", 0, AnswerPart::file),
                                new RowList.Column<>("type by its name", TYPE, AnswerPart::type)),
                        texts -> new AnswerPart(texts.get(0), texts.get(1), texts.get(2)),
                        parts -> keep.accept(answer.with(head.withParts(parts))))
                .show(form, head.parts(), "Add a file", new AnswerPart("part", "", ""));
        form.note("Where the body includes one (xop:Include href=\"cid:…\") the answer is sent as MTOM.");
    }
}
