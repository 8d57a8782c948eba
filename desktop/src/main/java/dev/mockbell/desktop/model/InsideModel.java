package dev.mockbell.desktop.model;

import dev.mockbell.content.Content;
import dev.mockbell.exchange.PartFiles;
import dev.mockbell.inside.EncodedValue;
import dev.mockbell.inside.Inside;
import dev.mockbell.inside.Kind;
import dev.mockbell.inside.Packed;
import dev.mockbell.inside.Separated;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.sheet.SheetRow;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import dev.mockbell.xml.XmlText;
import java.nio.file.Path;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.beans.property.IntegerProperty;
import javafx.beans.property.ObjectProperty;
import javafx.beans.property.SimpleObjectProperty;

/** What values of the answer hold of their own: what a chip says of it, and one of them opened. */
public final class InsideModel {
    /** Rows whose chips are known. */
    private static final int MOST_KNOWN = 500;

    private static final int SHORTEST = 4;

    /** What is shown of a text. */
    private static final int SHOWN = 2 << 20;

    /** Four bytes of memory each. */
    private static final long MOST_PIXELS = 40_000_000;

    private final Desk desk;
    private final Derived<Same<SheetRow>, Optional<Chip>> chips;
    private final ObjectProperty<Opened> opened = new SimpleObjectProperty<>();

    InsideModel(Desk desk) {
        this.desk = desk;
        this.chips =
                new Derived<>(desk.tasks(), MOST_KNOWN, r -> value(r.thing()).map(Chip::of), problem -> {});
    }

    /**
     * What a value holds.
     *
     * @param words for people
     * @param known whether it is more than bytes, so that how they are written says less
     */
    public record Chip(String words, boolean known) {
        private static Chip of(EncodedValue value) {
            return new Chip(value.words(), value.inside().kind() != Kind.BINARY);
        }
    }

    /**
     * A value that is looked into.
     *
     * @param title what it is the value of
     * @param coding how its bytes are written there
     * @param inside what it holds, unpacked
     * @param entries of a zip archive
     * @param rows of a table; empty for anything else
     * @param text of a text, laid out where it is XML, cut where it is long
     */
    public record Opened(
            String title,
            String coding,
            Inside inside,
            List<Packed.Entry> entries,
            Optional<Separated> rows,
            String text) {}

    private static Optional<EncodedValue> value(SheetRow row) {
        return EncodedValue.of(
                row.value(), row.simple().map(SimpleType::primitive).orElse(""));
    }

    /** What the value of a row holds, in words; empty for a value like any other, and while it is being found out. */
    public Optional<Chip> chip(SheetRow row) {
        boolean may = row.children().isEmpty() && row.value().length() >= SHORTEST;
        boolean said = row.simple()
                .map(SimpleType::primitive)
                .filter(p ->
                        !p.equals("string") && !p.equals("anyURI") && !p.endsWith("Binary") && !p.startsWith("any"))
                .isEmpty();
        return may && said ? chips.of(new Same<>(row)).flatMap(c -> c) : Optional.empty();
    }

    /** Lets go of what values of an answer hold that is not shown any more. */
    void forget() {
        chips.forget();
        close();
    }

    /** Grows when a chip has come. */
    public IntegerProperty chipsProperty() {
        return chips.changesProperty();
    }

    /** The value that is looked into; null for none. */
    public ObjectProperty<Opened> openedProperty() {
        return opened;
    }

    /** Looks into the value of a row. */
    public void open(SheetRow row) {
        desk.tasks()
                .run(
                        () -> value(row).map(v -> looked(row.label(), v)),
                        found -> found.ifPresent(this::show),
                        desk::tell);
    }

    /** @param trouble why it is looked at as it is packed */
    private record Looked(Opened opened, Optional<Problem> trouble) {}

    private static Looked looked(String title, EncodedValue value) {
        try {
            return new Looked(opened(title, coding(value), value.unpacked()), Optional.empty());
        } catch (Problem packed) {
            return new Looked(opened(title, value.coding().title(), value.inside()), Optional.of(packed));
        }
    }

    private void show(Looked looked) {
        opened.set(looked.opened());
        looked.trouble().ifPresent(desk::tell);
    }

    private static String coding(EncodedValue value) {
        return value.inside().kind() == Kind.GZIP
                ? "gzip, in " + value.coding().title()
                : value.coding().title();
    }

    /**
     * Looks into bytes.
     *
     * @param within what they stand in
     * @param content gives them, off the interface thread
     */
    public void open(String title, String within, Supplier<Content> content, String contentType) {
        desk.tasks().run(() -> opened(title, within, Inside.of(content.get(), contentType)), opened::set, desk::tell);
    }

    /** Looks into a text, as {@link #open(SheetRow)} does. */
    public void open(String title, String text) {
        desk.tasks()
                .run(
                        () -> EncodedValue.within(text).map(v -> looked(title, v)),
                        found -> found.ifPresentOrElse(
                                this::show, () -> desk.tell(Notice.good("The value holds nothing but its text."))),
                        desk::tell);
    }

    /** Looks into a file of the archive that is looked into. */
    public void entry(Packed.Entry entry) {
        Opened archive = opened.get();
        desk.tasks()
                .run(
                        () -> opened(
                                entry.name(),
                                "zip",
                                Inside.of(Packed.entry(archive.inside().content(), entry.name()))),
                        opened::set,
                        desk::tell);
    }

    public void close() {
        opened.set(null);
    }

    private static Opened opened(String title, String coding, Inside inside) {
        List<Packed.Entry> entries = inside.kind() == Kind.ZIP ? Packed.entries(inside.content()) : List.of();
        Optional<Separated> rows =
                inside.kind() == Kind.CSV ? Separated.of(inside.text(Integer.MAX_VALUE)) : Optional.empty();
        return new Opened(title, coding, inside, entries, rows, inside.kind().isText() ? text(inside) : "");
    }

    private static String text(Inside inside) {
        if (inside.kind() == Kind.XML && inside.content().size() <= SHOWN) {
            try {
                return XmlText.laidOut(Xml.parse(inside.text(SHOWN), "value", XmlLimits.CONTRACT));
            } catch (Problem notWellFormed) {
                return inside.text(SHOWN);
            }
        }
        long more = inside.content().size() - SHOWN;
        return inside.text(SHOWN) + (more > 0 ? "\n… " + more + " more bytes; Save keeps all of it" : "");
    }

    /** Writes what is looked into to a file, in place of one that is there. */
    public void save(Path file) {
        Content content = opened.get().inside().content();
        desk.tasks()
                .run(
                        () -> {
                            PartFiles.write(content, file);
                            return file;
                        },
                        saved -> desk.tell(Notice.good("Saved " + saved.getFileName() + ".")),
                        desk::tell);
    }

    /**
     * Has the picture that is looked into read off the interface thread, unless it would take too much memory.
     *
     * @param read makes a picture of its bytes
     */
    public <T> void picture(Function<byte[], T> read, Consumer<T> then) {
        Inside inside = opened.get().inside();
        desk.tasks()
                .run(
                        () -> {
                            if (inside.pixels() > MOST_PIXELS) {
                                throw Problem.input(
                                        "The picture has " + inside.pixels() + " pixels, too many to be shown",
                                        null,
                                        "Save it and open it by what knows it.");
                            }
                            return read.apply(inside.content().bytes());
                        },
                        then,
                        desk::tell);
    }
}
