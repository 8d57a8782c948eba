package dev.mockbell.desktop.model;

import dev.mockbell.content.Part;
import dev.mockbell.exchange.Message;
import dev.mockbell.exchange.PartFiles;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.CaseParts;
import dev.mockbell.request.PartText;
import dev.mockbell.suite.Case;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import javafx.beans.property.IntegerProperty;

/** The files that go with the current case, and the parts that came beside its last answer. */
public final class PartsModel {
    private final Desk desk;

    private final CallModel call;
    private final Derived<Same<Message>, List<Part>> came;
    private final Derived<PartText, Long> sizes;

    PartsModel(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
        this.came = new Derived<>(desk.tasks(), 4, m -> m.thing().attachments(), desk::tell);
        this.sizes = new Derived<>(
                desk.tasks(), 50, p -> CaseParts.size(desk.project().folder(), p), problem -> {});
    }

    /** Grows when the parts of an answer, or the size of a file, are known. */
    public IntegerProperty changesProperty() {
        return came.changesProperty();
    }

    /** As {@link #changesProperty}, for the files that go along. */
    public IntegerProperty sizesProperty() {
        return sizes.changesProperty();
    }

    /** The files that go along. */
    public List<PartText> going() {
        Case now = call.currentProperty().get();
        return now == null ? List.of() : now.parts();
    }

    /** How large a file is that goes along; empty while that is looked up, and when it is not there. */
    public Optional<Long> size(PartText part) {
        return sizes.of(part);
    }

    /** Whether the message leaves a value to a part, by its address. */
    public boolean isReferred(PartText part) {
        return call.request().xml().contains("cid:" + part.id() + "<")
                || call.request().xml().contains("cid:" + part.id() + "\"");
    }

    /**
     * Has a file go along; one that is not in the project is copied into it.
     *
     * @param then hears how the message refers to it
     */
    public void add(Path file, Consumer<String> then) {
        Case to = call.currentProperty().get();
        if (to == null) {
            return;
        }
        Path project = desk.project().folder();
        desk.tasks()
                .run(
                        () -> CaseParts.take(project, file),
                        kept -> {
                            String id = CaseParts.freeId(kept, going());
                            Case now = call.currentProperty().get();
                            if (now == null || !now.reference().equals(to.reference())) {
                                return;
                            }
                            List<PartText> more = new ArrayList<>(now.parts());
                            more.add(new PartText(id, kept, ""));
                            keep(more);
                            then.accept("cid:" + id);
                        },
                        desk::tell);
    }

    private void keep(List<PartText> parts) {
        call.settle();
        call.keep(call.currentProperty().get().withParts(parts));
        // a value that refers to a file is right or wrong by whether that goes along
        call.flaws().look(call.request().xml());
    }

    /** Has a file go along by another id or type. */
    public void change(PartText part, PartText other) {
        boolean taken = going().stream().anyMatch(p -> !p.equals(part) && p.id().equals(other.id()));
        if (taken || !other.id().matches("[!-;=?-~]+")) {
            desk.tell(Notice.bad(
                    taken
                            ? "There is a part “" + other.id() + "” already; choose another id."
                            : "The id of a part has letters, digits and signs of ASCII, and no spaces."));
            return;
        }
        keep(going().stream().map(p -> p.equals(part) ? other : p).toList());
    }

    /** Leaves a file out; it stays in the project. */
    public void remove(PartText part) {
        keep(going().stream().filter(p -> !p.equals(part)).toList());
    }

    /** The parts that came beside the last answer; none while they are looked for. */
    public List<Part> came() {
        return call.exchange()
                .flatMap(e -> e.response())
                .flatMap(r -> came.of(new Same<>(r)))
                .orElse(List.of());
    }

    /** Looks into a part, beside the answer. */
    public void open(Part part) {
        String title = part.id().orElse("the part");
        call.inside()
                .open(
                        title,
                        "the answer",
                        () -> PartFiles.decoded(part),
                        part.header("Content-Type").orElse(""));
    }

    /** A name for the file of a part. */
    public String name(Part part) {
        return PartFiles.name(part, came().indexOf(part) + 1);
    }

    /** Writes a part to a file, in place of one that is there. */
    public void save(Part part, Path file) {
        desk.tasks()
                .run(
                        () -> {
                            PartFiles.write(part, file);
                            return file;
                        },
                        saved -> desk.tell(Notice.good("Saved " + saved.getFileName() + ".")),
                        desk::tell);
    }

    /** Writes all parts of the answer to files of a folder that were not there. */
    public void saveAll(Path folder) {
        call.exchange()
                .flatMap(e -> e.response())
                .ifPresent(r -> desk.tasks()
                        .run(
                                () -> PartFiles.save(r, folder),
                                files -> desk.tell(
                                        Notice.good("Saved " + files.size() + " in " + folder.getFileName() + ".")),
                                (Problem problem) -> desk.tell(problem)));
    }
}
