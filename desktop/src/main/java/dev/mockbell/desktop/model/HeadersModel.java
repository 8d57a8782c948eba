package dev.mockbell.desktop.model;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.problem.Problem;
import dev.mockbell.schema.ElementDecl;
import dev.mockbell.sheet.HeaderBlocks;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import javafx.beans.property.ReadOnlyStringProperty;
import javafx.beans.property.ReadOnlyStringWrapper;

/** The blocks of the current case's SOAP header: those that the contract names each as a message of its own, others as text. */
public final class HeadersModel {
    private final Desk desk;
    private final CallModel call;
    private final Map<String, MessageModel> sheets = new LinkedHashMap<>();
    private final ReadOnlyStringWrapper trouble = new ReadOnlyStringWrapper("");
    private String reference = "";
    private String shown = "";
    private String readText;
    private OperationPlace readPlace;
    private Optional<HeaderBlocks> read = Optional.empty();

    HeadersModel(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** Headers that the contract names are in this order; whether each is in, by its name. */
    public Map<String, Boolean> declared() {
        Map<String, Boolean> found = new LinkedHashMap<>();
        Optional<HeaderBlocks> blocks = blocks();
        outline()
                .ifPresent(o -> o.headers()
                        .forEach(h -> found.put(
                                h.name().getLocalPart(),
                                blocks.flatMap(b -> b.block(h)).isPresent())));
        return found;
    }

    private Optional<MessageOutline> outline() {
        OperationPlace place = desk.placeProperty().get();
        return Optional.ofNullable(place).filter(p -> now() != null).map(call::requestOutline);
    }

    private Case now() {
        return call.currentProperty().get();
    }

    private Optional<HeaderBlocks> blocks() {
        OperationPlace place = desk.placeProperty().get();
        String text = now() == null ? null : now().soapHeaders();
        if (place != readPlace || text == null || !text.equals(readText)) {
            readPlace = place;
            readText = text;
            try {
                read = outline().map(o -> HeaderBlocks.of(o, text));
            } catch (Problem notWellFormed) {
                read = Optional.empty();
            }
        }
        return read;
    }

    /** Whether the blocks are no XML, so that they can only be mended as text. */
    public boolean isBroken() {
        return now() != null && blocks().isEmpty();
    }

    /** What is wrong with them, in words; empty when nothing is. */
    public ReadOnlyStringProperty troubleProperty() {
        return trouble.getReadOnlyProperty();
    }

    /** The declared block of that name as a message that is edited; it shows nothing while the block is left out. */
    public MessageModel sheet(String name) {
        return sheets.computeIfAbsent(name, n -> {
            MessageModel sheet = MessageModel.edited(desk.tasks());
            sheet.onEdited(text -> edited(n, text));
            sheet.troubleProperty().addListener((o, was, is) -> judge());
            return sheet;
        });
    }

    private void edited(String name, String text) {
        blocks().ifPresent(b ->
                b.declared(name).ifPresent(h -> keep(b.with(h, text).text())));
    }

    private void keep(String text) {
        shown = text;
        call.keep(now().withSoapHeaders(text));
        judge();
    }

    /** Puts a declared block in, as it was when it was in before, or takes it out. */
    public void flip(String name) {
        call.settle();
        blocks().ifPresent(b -> b.declared(name).ifPresent(h -> {
            boolean in = b.block(h).isPresent();
            String before = sheet(name).xml();
            HeaderBlocks other = in ? b.without(h) : before.isEmpty() ? b.with(h) : b.with(h, before);
            keep(other.text());
            show(other);
        }));
    }

    /** The blocks that the contract does not name, as text; all of them when they are no XML. */
    public String free() {
        return now() == null ? "" : blocks().map(HeaderBlocks::free).orElse(now().soapHeaders());
    }

    /** Takes another text for these. One that is no XML is kept too, beside the others, and told of. */
    public void keepFree(String text) {
        if (now() == null || text.equals(free())) {
            return;
        }
        Optional<HeaderBlocks> before = blocks();
        String all;
        try {
            all = before.isPresent() ? before.get().withFree(text).text() : text;
        } catch (Problem notWellFormed) {
            List<String> declared = new ArrayList<>();
            before.ifPresent(b ->
                    outline().ifPresent(o -> o.headers().forEach(h -> b.block(h).ifPresent(declared::add))));
            declared.add(text);
            all = String.join("\n", declared);
        }
        keep(all);
        refresh();
    }

    /** Shows the blocks of the current case. */
    public void refresh() {
        Case kept = now();
        if (kept == null) {
            return;
        }
        boolean other = !kept.reference().equals(reference);
        if (other) {
            reference = kept.reference();
            sheets.values().forEach(MessageModel::clear);
        }
        if (other || !kept.soapHeaders().equals(shown)) {
            shown = kept.soapHeaders();
            blocks().ifPresent(this::show);
        }
        judge();
    }

    private void show(HeaderBlocks blocks) {
        for (ElementDecl header : blocks.outline().headers()) {
            String name = header.name().getLocalPart();
            Optional<String> block = blocks.block(header);
            MessageModel sheet = sheet(name);
            if (block.isPresent() && !sheet.xml().equals(block.get())) {
                sheet.open(blocks.outlineOf(header), block.get());
            }
        }
        judge();
    }

    private void judge() {
        Optional<HeaderBlocks> blocks = blocks();
        if (blocks.isEmpty()) {
            trouble.set(now() == null ? "" : "The header blocks are not well-formed XML");
            return;
        }
        for (ElementDecl header : blocks.get().outline().headers()) {
            String name = header.name().getLocalPart();
            String wrong = sheet(name).troubleProperty().get();
            if (blocks.get().block(header).isPresent() && !wrong.isEmpty()) {
                trouble.set("Header " + name + ": " + wrong);
                return;
            }
        }
        trouble.set("");
    }
}
