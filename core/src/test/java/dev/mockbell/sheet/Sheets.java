package dev.mockbell.sheet;

import static org.assertj.core.api.Assertions.assertThat;

import dev.mockbell.contract.Contract;
import dev.mockbell.contract.Contracts;
import dev.mockbell.message.MessageOutline;
import dev.mockbell.validation.MessageValidator;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.util.ArrayList;
import java.util.List;

/** Sheets for tests, over a schema that declares {@code t:Root}. */
public final class Sheets {
    private Sheets() {}

    public static MessageOutline outline(String schema) {
        Contract contract = Contracts.of("a.wsdl", Contracts.wsdl(Contracts.schema(schema)));
        assertThat(contract.findings()).isEmpty();
        return MessageOutline.of(
                contract,
                contract.operation("Do", null).orElseThrow().operation().input().orElseThrow());
    }

    static Sheet sheet(String schema, String message) {
        return Sheet.open(outline(schema), message);
    }

    /** A root with this inside its sequence. */
    static Sheet inside(String particles, String message) {
        return sheet(root(particles), message);
    }

    public static String root(String particles) {
        return "<xs:element name='Root'><xs:complexType><xs:sequence>" + particles
                + "</xs:sequence></xs:complexType></xs:element>";
    }

    static List<SheetRow> all(Sheet sheet) {
        List<SheetRow> rows = new ArrayList<>();
        sheet.root().ifPresent(r -> collect(r, rows));
        return rows;
    }

    private static void collect(SheetRow row, List<SheetRow> into) {
        into.add(row);
        row.children().forEach(c -> collect(c, into));
    }

    /** All that the rows show, so that two sheets can be held against each other. */
    static List<String> pictures(Sheet sheet) {
        return all(sheet).stream()
                .map(r -> r.path() + " " + r.kind() + " " + r.label() + " " + r.state() + " " + r.value() + " "
                        + r.occurs() + " " + r.index() + "/" + r.count() + " " + r.problem() + " " + r.optional() + " "
                        + r.canRepeatGroup() + " " + r.tally())
                .toList();
    }

    public static SheetRow row(Sheet sheet, String label) {
        return all(sheet).stream()
                .filter(r -> r.label().equals(label))
                .findFirst()
                .orElseThrow();
    }

    /** The message without the white space between its tags. */
    static String tight(Sheet sheet) {
        return sheet.text().replaceAll(">\\s+<", "><");
    }

    public static List<MessageValidator.Breach> breaches(Sheet sheet) {
        return new MessageValidator(sheet.outline().schemas())
                .validate(sheet.outline(), Xml.parse(sheet.text(), "m", XmlLimits.MESSAGE));
    }
}
