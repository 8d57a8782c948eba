package dev.mockbell.cli;

import dev.mockbell.check.Answer;
import dev.mockbell.compare.Comparison;
import dev.mockbell.compare.Difference;
import dev.mockbell.compare.LeftOut;
import dev.mockbell.exchange.PartFiles;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.inside.EncodedValue;
import dev.mockbell.inside.Inside;
import dev.mockbell.inside.Kind;
import dev.mockbell.problem.Problem;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.soap.SoapVersion;
import dev.mockbell.table.Column;
import dev.mockbell.table.DatabaseTable;
import dev.mockbell.table.Shape;
import dev.mockbell.table.Table;
import dev.mockbell.table.TableWriter;
import dev.mockbell.table.TableWriter.Form;
import dev.mockbell.xml.TextFile;
import dev.mockbell.xml.Xml;
import dev.mockbell.xml.XmlLimits;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.w3c.dom.Document;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import picocli.CommandLine.Option;

/** The options that take something out of an answer, or hold it against another. */
final class Taking {
    private static final int MOST_SHOWN = 50;
    private static final int MOST_FILE = 512;

    @Option(
            names = "--table",
            paramLabel = "PATH",
            description = "Takes the elements at an XPath as rows; prints them as CSV, or with --json as JSON.")
    private String rows;

    @Option(names = "--where", paramLabel = "XPATH", description = "Takes the rows alone for which that is true.")
    private String where = "";

    @Option(
            names = "--columns",
            paramLabel = "NAME,…",
            split = ",",
            description = "Takes these columns, in this order.")
    private List<String> columns = List.of();

    @Option(names = "--limit", paramLabel = "N", description = "Takes so many rows at most.")
    private int limit;

    @Option(names = "--csv", paramLabel = "FILE", description = "Writes the rows as CSV.")
    private Path csv;

    @Option(names = "--json-file", paramLabel = "FILE", description = "Writes the rows as JSON.")
    private Path jsonFile;

    @Option(
            names = "--sqlite",
            paramLabel = "FILE:TABLE",
            description = "Writes the rows into a table of an SQLite file; both are made when they are not there.")
    private String sqlite;

    @Option(
            names = "--jdbc",
            paramLabel = "URL:TABLE",
            description = "Writes the rows into a table of a database, in one transaction.")
    private String jdbc;

    @Option(names = "--driver", paramLabel = "JAR", description = "The file of the database's driver.")
    private Path driver;

    @Option(names = "--db-user", paramLabel = "NAME", description = "Who logs in at the database.")
    private String user;

    @Option(
            names = "--db-password-env",
            paramLabel = "VARIABLE",
            description = "The environment variable with the password for the database.")
    private String password;

    @Option(
            names = "--replace",
            description = "The rows take the place of those in the table; they are added otherwise.")
    private boolean replaces;

    @Option(
            names = "--decode",
            paramLabel = "PATH",
            description =
                    "Takes what the value at an XPath holds: base64, hex or compressed; prints it when it is text.")
    private String decoded;

    @Option(names = "--out", paramLabel = "FILE", description = "Writes what --decode found to a file.")
    private Path out;

    @Option(
            names = "--compare",
            paramLabel = "FILE",
            description = "Holds the answer against the one in a file; exit code 1 when they say something else.")
    private Path other;

    @Option(
            names = "--leave-out",
            paramLabel = "XPATH",
            description = "Leaves a part out of the comparison; may be repeated.")
    private List<String> leftOut = List.of();

    /** Whether something is asked for, so that it stands on the standard output in place of the answer. */
    boolean isAsked() {
        return rows != null || decoded != null || other != null;
    }

    /**
     * Refuses what cannot be meant, before anything is sent.
     *
     * @throws Problem with the option
     */
    void check() {
        boolean writes = csv != null || jsonFile != null || sqlite != null || jdbc != null;
        if (rows == null && (writes || !where.isEmpty() || !columns.isEmpty() || limit != 0)) {
            throw Problem.input("There are no rows to write", null, "Say by --table which elements are rows.");
        }
        if (decoded == null && out != null) {
            throw Problem.input("--out has nothing to write", null, "Say by --decode which value it is.");
        }
        if (other == null && !leftOut.isEmpty()) {
            throw Problem.input("--leave-out has nothing to leave out of", null, "Give --compare FILE.");
        }
        for (String target : new String[] {sqlite, jdbc}) {
            if (target != null && (target.lastIndexOf(':') < 1 || target.endsWith(":"))) {
                throw Problem.input("The table is missing", target, "Write its name behind a colon.");
            }
        }
    }

    /**
     * Takes it.
     *
     * @param json whether rows are printed as JSON
     * @return 0, or 1 where the answer is "no": nothing to decode, or not the same
     */
    int take(Answer answer, Expressions expressions, Scope scope, Console console, boolean json, boolean strict) {
        if (answer.content().isEmpty()) {
            console.note("There is nothing in the answer to take anything from.");
            return 1;
        }
        Document document = answer.content().get();
        int code = 0;
        if (rows != null) {
            table(document, expressions, scope, console, json);
        }
        if (decoded != null) {
            code = Math.max(code, decode(document, expressions, scope, console));
        }
        if (other != null) {
            code = Math.max(code, compare(document, expressions, scope, console, strict));
        }
        return code;
    }

    private void table(Document document, Expressions expressions, Scope scope, Console console, boolean json) {
        Shape wanted = Shape.of(rows).where(where).most(limit);
        Table table = Table.of(document, wanted, expressions, scope);
        if (!columns.isEmpty()) {
            table = Table.of(document, wanted.with(chosen(table.shape().columns())), expressions, scope);
        }
        boolean written = false;
        if (csv != null) {
            TableWriter.write(table, Form.CSV, csv);
            written = told(console, table, csv.toString());
        }
        if (jsonFile != null) {
            TableWriter.write(table, Form.JSON, jsonFile);
            written = told(console, table, jsonFile.toString());
        }
        if (sqlite != null) {
            int colon = sqlite.lastIndexOf(':');
            DatabaseTable.sqlite(Path.of(sqlite.substring(0, colon)), sqlite.substring(colon + 1), replaces)
                    .write(table);
            written = told(console, table, sqlite.substring(colon + 1));
        }
        if (jdbc != null) {
            int colon = jdbc.lastIndexOf(':');
            String secret = password == null ? "" : Reading.variable(password);
            new DatabaseTable(
                            jdbc.substring(0, colon),
                            jdbc.substring(colon + 1),
                            replaces,
                            Optional.ofNullable(user),
                            secret,
                            Optional.ofNullable(driver))
                    .write(table);
            written = told(console, table, jdbc.substring(colon + 1));
        }
        if (!written) {
            console.line(TableWriter.text(table, json ? Form.JSON : Form.CSV).stripTrailing());
        }
    }

    private static boolean told(Console console, Table table, String where) {
        int count = table.rows().size();
        console.note("Wrote " + count + (count == 1 ? " row to " : " rows to ") + where + ".");
        return true;
    }

    private List<Column> chosen(List<Column> all) {
        List<Column> chosen = new ArrayList<>();
        for (String name : columns) {
            Column found = all.stream()
                    .filter(c -> c.name().equals(name.strip()) || c.path().equals(name.strip()))
                    .findFirst()
                    .orElseThrow(() -> Problem.input(
                            "There is no column " + name.strip(),
                            rows,
                            "There are "
                                    + String.join(
                                            ", ", all.stream().map(Column::name).toList()) + "."));
            chosen.add(found);
        }
        all.stream().filter(c -> !chosen.contains(c)).forEach(c -> chosen.add(c.shown(false)));
        return chosen;
    }

    private int decode(Document document, Expressions expressions, Scope scope, Console console) {
        List<Node> found = expressions.nodes(decoded, scope.on(expressions.wrap(document)));
        if (found.isEmpty()) {
            console.note("There is nothing at " + decoded + ".");
            return 1;
        }
        Optional<EncodedValue> value = found.stream()
                .map(n -> EncodedValue.within(n.getTextContent()))
                .flatMap(Optional::stream)
                .findFirst();
        if (value.isEmpty()) {
            console.note("What is at " + decoded + " holds nothing but its text.");
            return 1;
        }
        if (found.size() > 1) {
            console.note(found.size() + " values are at " + decoded + "; this is the first that holds something.");
        }
        boolean known = value.get().inside().kind() != Kind.BINARY;
        console.note(
                (known ? value.get().coding().title() + ": " : "") + value.get().words());
        Inside inside = unpacked(value.get(), console);
        if (out != null) {
            PartFiles.write(inside.content(), out.toAbsolutePath());
            console.note("Wrote " + inside.content().size() + " bytes to " + out + ".");
        } else if (inside.kind().isText()) {
            console.line(inside.text(Integer.MAX_VALUE).stripTrailing());
        } else {
            throw Problem.input("What the value holds is no text", decoded, "Give --out FILE.");
        }
        return 0;
    }

    /** As it is where it cannot be unpacked, as long as it goes to a file. */
    private Inside unpacked(EncodedValue value, Console console) {
        try {
            return value.unpacked();
        } catch (Problem tooMuch) {
            if (out == null) {
                throw tooMuch;
            }
            console.note(tooMuch.what() + ". It is written as it is.");
            return value.inside();
        }
    }

    private int compare(Document document, Expressions expressions, Scope scope, Console console, boolean strict) {
        Document before = payload(Xml.parse(
                TextFile.read(other, "The file to compare with", MOST_FILE), other.toString(), XmlLimits.MESSAGE));
        Comparison comparison = LeftOut.without(before, document, leftOut, expressions, scope);
        comparison.differences().stream()
                .limit(MOST_SHOWN)
                .map(Difference::words)
                .forEach(console::line);
        int more = comparison.differences().size() - MOST_SHOWN;
        if (more > 0) {
            console.note(more + " more differences are not shown.");
        }
        console.note("Compared with " + other + ": " + comparison.words() + ".");
        boolean same = strict ? comparison.differences().isEmpty() : comparison.isSame();
        return same ? 0 : 1;
    }

    /** What is in the body of an envelope; the document itself where it is none. */
    private static Document payload(Document document) {
        Element root = document.getDocumentElement();
        boolean envelope = "Envelope".equals(root.getLocalName())
                && SoapVersion.ofNamespace(String.valueOf(root.getNamespaceURI()))
                        .isPresent();
        return envelope
                ? SoapMessage.of(document, "file")
                        .payloadDocument()
                        .orElseThrow(() -> Problem.input(
                                "The envelope to compare with has an empty body", null, "Give another file."))
                : document;
    }
}
