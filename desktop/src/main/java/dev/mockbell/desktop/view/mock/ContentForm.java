package dev.mockbell.desktop.view.mock;

import dev.mockbell.desktop.view.shared.Form;
import dev.mockbell.mock.AnswerContent;
import dev.mockbell.mock.MockAnswer;
import dev.mockbell.mock.ValueChange;
import java.nio.file.Path;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;

/** What an answer says that is no XML of its own. */
final class ContentForm implements AnswerContent.Visitor<Boolean> {
    private static final double PATH = 230;

    private final Form form;
    private final MockAnswer answer;
    private final Supplier<Path> folder;
    private final Consumer<MockAnswer> keep;

    /** @param folder the project's */
    ContentForm(Form form, MockAnswer answer, Supplier<Path> folder, Consumer<MockAnswer> keep) {
        this.form = form;
        this.answer = answer;
        this.folder = folder;
        this.keep = keep;
    }

    private void keep(AnswerContent content) {
        keep.accept(answer.withContent(content));
    }

    /** Whether it has a form here. */
    boolean show() {
        form.clear();
        return answer.content().accept(this);
    }

    @Override
    public Boolean message(AnswerContent.Message content) {
        return false;
    }

    @Override
    public Boolean fault(AnswerContent.Fault content) {
        return false;
    }

    @Override
    public Boolean requestBack(AnswerContent.RequestBack content) {
        form.note("The client gets the bytes that it sent, with its own Content-Type.");
        return true;
    }

    @Override
    public Boolean file(AnswerContent.FileBody content) {
        form.file(
                "File",
                "mock-file",
                content.file(),
                "a path from the project's folder",
                text -> keep(new AnswerContent.FileBody(text, content.type())),
                chosen -> keep(new AnswerContent.FileBody(written(chosen.toPath()), content.type())));
        form.text(
                "Content-Type",
                "mock-type",
                content.type(),
                "that of the envelope asked in",
                text -> keep(new AnswerContent.FileBody(content.file(), text)));
        form.note("Its bytes are the body, as they are. A file outside the project's folder is refused.");
        return true;
    }

    private String written(Path chosen) {
        Path base = folder.get().toAbsolutePath().normalize();
        Path file = chosen.toAbsolutePath().normalize();
        return file.startsWith(base) ? base.relativize(file).toString().replace('\\', '/') : file.toString();
    }

    @Override
    public Boolean nothing(AnswerContent.Nothing content) {
        form.note("No body. Its status is under Headers.");
        return true;
    }

    @Override
    public Boolean passOn(AnswerContent.PassOn content) {
        form.heading("Live endpoint");
        form.text(
                "Address",
                "mock-onward",
                content.endpoint(),
                "that of the contract",
                text -> keep(new AnswerContent.PassOn(text, content.elseNext(), content.asked(), content.answered())));
        form.toggle(
                "When it fails",
                "mock-else",
                "the next answer that matches is given",
                content.elseNext(),
                on -> keep(new AnswerContent.PassOn(content.endpoint(), on, content.asked(), content.answered())));
        form.heading("Changed in the request");
        changes(
                "mock-asked",
                content.asked(),
                changed -> keep(
                        new AnswerContent.PassOn(content.endpoint(), content.elseNext(), changed, content.answered())));
        form.heading("Changed in the answer");
        changes(
                "mock-answered",
                content.answered(),
                changed -> keep(
                        new AnswerContent.PassOn(content.endpoint(), content.elseNext(), content.asked(), changed)));
        return true;
    }

    private void changes(String id, List<ValueChange> now, Consumer<List<ValueChange>> changed) {
        new RowList<ValueChange>(
                        id,
                        List.of(
                                new RowList.Column<>("an XPath to the value", PATH, ValueChange::path),
                                new RowList.Column<>("what it becomes, with {expressions}", 0, ValueChange::value)),
                        texts -> new ValueChange(texts.get(0), texts.get(1)),
                        changed)
                .show(form, now, "Change a value", new ValueChange("//", ""));
    }
}
