package dev.mockbell.sheet;

import dev.mockbell.message.MessageOutline;
import dev.mockbell.schema.SimpleType;
import dev.mockbell.soap.Xop;
import dev.mockbell.xml.XmlText;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Element;

/** Values that go as parts beside the envelope. */
public final class Includes {
    private Includes() {}

    /** The parts that there are. */
    public interface Parts {
        /** The address of the part of an id, as it is written in an include; empty when there is none. */
        Optional<String> address(String id);

        /** What stands in the message itself in place of the part of an id, as base64; empty to leave it to the part. */
        default Optional<String> inline(String id) {
            return Optional.empty();
        }
    }

    /**
     * The payload with an include in every binary value that is the address of a part, {@code cid:ID}. An address where the
     * contract has no binary value stands as it is, as SOAP with Attachments has it.
     */
    public static String in(MessageOutline outline, String payload, Parts parts) {
        if (payload.isBlank()) {
            return payload;
        }
        Sheet sheet = Sheet.open(outline, payload);
        List<Element> holders = new ArrayList<>();
        sheet.root().ifPresent(r -> collect(r, parts, holders));
        for (Element holder : holders) {
            String id = id(holder.getTextContent());
            Optional<String> inline = parts.inline(id);
            inline.ifPresent(holder::setTextContent);
            if (inline.isEmpty()) {
                parts.address(id).ifPresent(address -> Xop.include(holder, address));
            }
        }
        return holders.isEmpty() ? payload : XmlText.exact(holders.get(0).getOwnerDocument());
    }

    private static void collect(SheetRow row, Parts parts, List<Element> holders) {
        boolean binary = row.target()
                .simple()
                .map(SimpleType::primitive)
                .filter("base64Binary"::equals)
                .isPresent();
        if (binary
                && row.target().node() instanceof Element holder
                && parts.address(id(row.value())).isPresent()) {
            holders.add(holder);
        }
        row.children().forEach(c -> collect(c, parts, holders));
    }

    /** What an address refers to; no id when it is none. */
    private static String id(String value) {
        String text = value.strip();
        return text.startsWith("cid:") ? text.substring(4) : "";
    }
}
