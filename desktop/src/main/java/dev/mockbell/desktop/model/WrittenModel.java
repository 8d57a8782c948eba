package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract;
import dev.mockbell.desktop.model.OtherPrograms.Versions;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.project.KeptContract;
import dev.mockbell.project.Names;
import dev.mockbell.project.ProjectStore.WrittenSave;
import dev.mockbell.sample.SampleBuilder;
import dev.mockbell.suite.Case;
import dev.mockbell.task.StopSignal;
import dev.mockbell.validation.Fit;
import dev.mockbell.written.PastedTable;
import dev.mockbell.written.RowEdits;
import dev.mockbell.written.RowEdits.Edited;
import dev.mockbell.written.SampleFields;
import dev.mockbell.written.WrittenContract;
import dev.mockbell.written.WrittenDocuments;
import dev.mockbell.written.WrittenPart;
import dev.mockbell.written.WrittenRow;
import dev.mockbell.written.WrittenRow.Column;
import dev.mockbell.written.WrittenRows;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.BiFunction;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;
import javafx.animation.PauseTransition;
import javafx.beans.property.ReadOnlyObjectProperty;
import javafx.beans.property.ReadOnlyObjectWrapper;
import javafx.util.Duration;

/**
 * A contract that is being written by hand. Every change is read at once as its documents would be, and kept when typing rests.
 * Used on the interface thread.
 */
public final class WrittenModel {
    private static final Duration REST = Duration.millis(500);
    private static final int MOST_STEPS = 200;

    private final Desk desk;
    private final ReadOnlyObjectWrapper<Open> open = new ReadOnlyObjectWrapper<>();
    private final ReadOnlyObjectWrapper<Made> made = new ReadOnlyObjectWrapper<>();
    private final Deque<WrittenContract> earlier = new ArrayDeque<>();
    private final Deque<WrittenContract> later = new ArrayDeque<>();
    private final PauseTransition rest = new PauseTransition(REST);
    private WrittenContract contract;
    private List<WrittenRow> rows = List.of();
    private String lastCell = "";
    private boolean unsaved;

    /** The table as it was in the folder last; the saver knows first. */
    private AtomicReference<Optional<WrittenContract>> seen = new AtomicReference<>(Optional.empty());

    WrittenModel(Desk desk) {
        this.desk = desk;
        rest.setOnFinished(e -> keep());
        desk.onClose(this::keep);
        desk.elsewhere().onContract(this::changedElsewhere);
    }

    /**
     * Which contract it is.
     *
     * @param id another one each time it is opened
     * @param name its short name
     */
    public record Open(UUID id, String name, String title) {}

    /** What became of the table. */
    public record Made(WrittenDocuments documents, Contract contract) {}

    /** Null while none is written. */
    public ReadOnlyObjectProperty<Open> openProperty() {
        return open.getReadOnlyProperty();
    }

    /** The documents of the table as it is; null until they are made. */
    public ReadOnlyObjectProperty<Made> madeProperty() {
        return made.getReadOnlyProperty();
    }

    public List<WrittenRow> rows() {
        return rows;
    }

    public WrittenContract contract() {
        return contract;
    }

    /** Begins a new one. */
    public void begin(String title) {
        String name = Names.free(title, n -> desk.project().contract(n).isPresent());
        WrittenContract fresh = WrittenContract.named(title);
        Edited first = RowEdits.operationAfter(List.of(), 0);
        show(
                new Open(UUID.randomUUID(), name, title),
                Optional.empty(),
                fresh.with(WrittenRows.operations(first.rows())));
        changed();
    }

    /** Opens one of the project. */
    public void edit(KeptContract kept) {
        Path folder = desk.project().folder();
        desk.inTurn(
                () -> desk.store().written(folder, kept.name()),
                found -> {
                    if (found.isPresent()) {
                        show(new Open(UUID.randomUUID(), kept.name(), kept.title()), found, found.get());
                        remake();
                    } else {
                        desk.tell(Notice.bad(
                                "The table of " + kept.title() + " is gone; its documents stay as they are.",
                                "Remove it",
                                () -> desk.contracts().remove(kept)));
                    }
                },
                desk::tell);
    }

    private void show(Open which, Optional<WrittenContract> inFolder, WrittenContract written) {
        keep();
        earlier.clear();
        later.clear();
        lastCell = "";
        made.set(null);
        seen = new AtomicReference<>(inFolder);
        take(written);
        open.set(which);
        desk.go(Station.CONTRACT);
    }

    private void take(WrittenContract written) {
        contract = written;
        rows = List.copyOf(WrittenRows.of(written));
    }

    /** Leaves it; what was changed is kept. */
    public void leave() {
        keep();
        open.set(null);
    }

    /** Changes one cell. Typing on in the same one is one step to undo. */
    public void set(int row, Column column, String text) {
        if (row >= rows.size() || rows.get(row).cell(column).equals(text)) {
            return;
        }
        String cell = row + " " + column;
        remember(!cell.equals(lastCell));
        lastCell = cell;
        List<WrittenRow> all = new ArrayList<>(rows);
        all.set(row, all.get(row).with(column, text));
        // the rows stay the ones that are shown
        rows = List.copyOf(all);
        contract = contract.with(WrittenRows.operations(rows));
        changed();
    }

    /** Changes the rows at one of them; gives the row to go on at. */
    public int edit(int at, BiFunction<List<WrittenRow>, Integer, Edited> change) {
        Edited edited = change.apply(rows, at);
        if (edited.rows().equals(rows)) {
            return edited.at();
        }
        remember(true);
        take(contract.with(WrittenRows.operations(edited.rows())));
        changed();
        return Math.min(edited.at(), rows.size() - 1);
    }

    /** Puts in cells of a spreadsheet. */
    public int paste(int at, String cells) {
        try {
            List<WrittenRow> more = PastedTable.read(cells);
            return edit(isBlank() ? 0 : at, (all, row) -> RowEdits.pasted(isBlank() ? List.of() : all, row, more));
        } catch (Problem problem) {
            desk.tell(problem);
            return at;
        }
    }

    /**
     * Puts in the fields of a sample: as what an operation takes or gives by its name, or in the part of the row.
     *
     * @throws Problem when it is no sample
     */
    public int sample(int at, String text) {
        SampleFields sample = SampleFields.of(text);
        List<WrittenRow> fields = WrittenRows.of(sample.fields(), 0);
        if (sample.root().isEmpty()) {
            return edit(at, (all, row) -> RowEdits.pasted(all, row, fields));
        }
        WrittenPart.Kind kind = sample.isAnswer() ? WrittenPart.Kind.GIVES : WrittenPart.Kind.TAKES;
        for (int i = 0; i < rows.size(); i++) {
            if (rows.get(i).kind() == WrittenRow.Kind.OPERATION
                    && rows.get(i).name().equals(sample.operation())) {
                return edit(i, (all, row) -> into(all, row, kind, fields));
            }
        }
        List<WrittenRow> operation = new ArrayList<>();
        operation.add(WrittenRow.operation(sample.operation(), false, ""));
        operation.add(WrittenRow.part(kind, ""));
        operation.addAll(fields);
        boolean nothing = isBlank();
        return edit(nothing ? 0 : at, (all, row) -> RowEdits.pasted(nothing ? List.of() : all, row, operation));
    }

    /** Whether nothing was written yet but what a new one begins with. */
    private boolean isBlank() {
        return rows.stream().allMatch(r -> r.name().isBlank());
    }

    private static Edited into(List<WrittenRow> all, int operation, WrittenPart.Kind kind, List<WrittenRow> fields) {
        Edited there = RowEdits.part(all, operation, kind);
        return RowEdits.pasted(there.rows(), there.at(), fields);
    }

    /** Changes what is said of the whole. */
    public void settings(UnaryOperator<WrittenContract> change) {
        WrittenContract now = change.apply(contract);
        if (!now.equals(contract)) {
            remember(true);
            contract = now;
            changed();
        }
    }

    private void remember(boolean step) {
        if (step) {
            earlier.push(contract);
            if (earlier.size() > MOST_STEPS) {
                earlier.removeLast();
            }
        }
        later.clear();
        lastCell = "";
    }

    /** Goes a step back; false when there is none. */
    public boolean undo() {
        return step(earlier, later);
    }

    /** Goes a step forth again. */
    public boolean redo() {
        return step(later, earlier);
    }

    private boolean step(Deque<WrittenContract> from, Deque<WrittenContract> to) {
        if (from.isEmpty()) {
            return false;
        }
        to.push(contract);
        take(from.pop());
        lastCell = "";
        changed();
        return true;
    }

    private void changed() {
        unsaved = true;
        desk.steps().edited();
        rest.playFromStart();
        remake();
    }

    private void remake() {
        WrittenContract now = contract;
        desk.tasks()
                .run(
                        () -> {
                            WrittenDocuments documents = WrittenDocuments.of(now);
                            return new Made(documents, documents.read(new StopSignal()));
                        },
                        done -> {
                            if (now == contract) {
                                made.set(done);
                            }
                        },
                        desk::tell);
    }

    /** Keeps the table and its documents in the project, where something changed. */
    private void keep() {
        rest.stop();
        if (!unsaved || open.get() == null) {
            return;
        }
        unsaved = false;
        save(open.get(), contract, seen);
    }

    private void save(Open which, WrittenContract now, AtomicReference<Optional<WrittenContract>> before) {
        Path folder = desk.project().folder();
        Instant when = Instant.now(desk.clock());
        desk.inTurn(
                () -> {
                    WrittenSave done = desk.store()
                            .saveWritten(
                                    folder,
                                    which.name(),
                                    which.title(),
                                    before.get(),
                                    now,
                                    WrittenDocuments.of(now),
                                    when);
                    if (done.kept().isPresent()) {
                        before.set(desk.store().written(folder, which.name()));
                    }
                    return done;
                },
                done -> {
                    done.kept().ifPresent(this::kept);
                    done.theirs().ifPresent(theirs -> clash(which, now, theirs, before));
                },
                desk::tell);
    }

    private void kept(KeptContract kept) {
        desk.change(p -> p.withContract(kept));
        desk.contracts().refresh(kept.name());
    }

    private void clash(
            Open which,
            WrittenContract ours,
            WrittenContract theirs,
            AtomicReference<Optional<WrittenContract>> before) {
        String words = "The table of “" + which.title()
                + "” was changed here and changed by another program. Nothing is overwritten.";
        Runnable keepOurs = () -> {
            before.set(Optional.of(theirs));
            boolean here = which.equals(open.get());
            save(which, here ? contract : ours, before);
        };
        Runnable takeTheirs = () -> {
            before.set(Optional.of(theirs));
            if (which.equals(open.get())) {
                take(which, theirs);
            }
        };
        desk.elsewhere()
                .tell(
                        words,
                        () -> desk.tasks()
                                .run(
                                        () -> new Versions(
                                                words,
                                                false,
                                                OtherPrograms.differences(
                                                        desk.store().text(ours),
                                                        desk.store().text(theirs)),
                                                keepOurs,
                                                takeTheirs,
                                                () -> clash(which, ours, theirs, before)),
                                        desk.elsewhere()::choose,
                                        desk::tell));
    }

    /** The table is as another program left it. */
    private void take(Open which, WrittenContract theirs) {
        rest.stop();
        unsaved = false;
        earlier.clear();
        later.clear();
        lastCell = "";
        take(theirs);
        remake();
        // another one, so that whoever shows it shows it anew
        open.set(new Open(UUID.randomUUID(), which.name(), which.title()));
    }

    /** Another program changed a contract; what is being written here is not lost by it. */
    private void changedElsewhere(String name) {
        Open which = open.get();
        if (which == null || !which.name().equals(name) || unsaved) {
            return;
        }
        Path folder = desk.project().folder();
        AtomicReference<Optional<WrittenContract>> before = seen;
        desk.inTurn(
                () -> desk.store().written(folder, name),
                there -> {
                    if (which.equals(open.get()) && !unsaved && there.isPresent() && !there.equals(before.get())) {
                        before.set(there);
                        take(which, there.get());
                    }
                },
                desk::tell);
    }

    /** The cells as a spreadsheet takes them. */
    public String cells() {
        return PastedTable.write(rows);
    }

    /** The operation that a row is of; empty where it has no name yet. */
    public Optional<String> operation(int row) {
        return rows.isEmpty() || row < 0 || row >= rows.size()
                ? Optional.empty()
                : Optional.of(rows.get(RowEdits.operation(rows, row)).name().strip())
                        .filter(n -> !n.isEmpty());
    }

    /** Hands over a request and an answer of an operation. */
    public void samples(String operation, Consumer<String> taker) {
        Contract read = made.get().contract();
        desk.tasks()
                .run(
                        () -> read.operation(operation, null)
                                .map(b -> b.operation())
                                .map(o -> "<!-- the request -->\n"
                                        + SampleBuilder.text(
                                                MessageOutline.ofRequest(read, o), SampleBuilder.Detail.FULL)
                                        + MessageOutline.ofAnswer(read, o)
                                                .map(a -> "\n\n<!-- the answer -->\n"
                                                        + SampleBuilder.text(a, SampleBuilder.Detail.FULL))
                                                .orElse(""))
                                .orElse(""),
                        taker,
                        desk::tell);
    }

    /** Hands over how the cases of an operation fit the table as it is: "2 cases use ReportItem; both still fit". */
    public void cases(String operation, Consumer<String> taker) {
        Contract read = made.get().contract();
        List<Case> cases = desk.project().cases(open.get().name(), operation);
        desk.tasks().run(() -> fitting(read, operation, cases), taker, desk::tell);
    }

    private static String fitting(Contract read, String operation, List<Case> cases) {
        if (cases.isEmpty() || read.operation(operation, null).isEmpty()) {
            return "";
        }
        MessageOutline outline = MessageOutline.ofRequest(
                read, read.operation(operation, null).orElseThrow().operation());
        long misfits =
                cases.stream().filter(c -> !Fit.of(outline, c.body()).isGood()).count();
        String many = cases.size() == 1 ? "1 case uses " : cases.size() + " cases use ";
        return many + operation + "; "
                + (misfits == 0
                        ? cases.size() == 1 ? "it still fits" : cases.size() == 2 ? "both still fit" : "all still fit"
                        : misfits + (misfits == 1 ? " does not fit" : " do not fit"));
    }

    /** The contract as the project keeps it. */
    public Optional<KeptContract> kept() {
        return Optional.ofNullable(open.get()).flatMap(o -> desk.project().contract(o.name()));
    }

    /** Keeps it and hands it over, once it is in the project. */
    public void withKept(Consumer<KeptContract> then) {
        unsaved = true;
        keep();
        desk.inTurn(() -> true, done -> kept().ifPresent(then), desk::tell);
    }
}
