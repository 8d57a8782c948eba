package dev.mockbell.suite;

import dev.mockbell.exchange.Exchange;
import dev.mockbell.exchange.Message;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.problem.Problem;
import dev.mockbell.redact.Redactor;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapMessage;
import dev.mockbell.suite.KnownValues.Column;
import dev.mockbell.suite.KnownValues.Use;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import javax.xml.namespace.QName;
import net.sf.saxon.s9api.XdmNode;

/** What an exchange would be as a row of a table of known values: what its request held, and what came. */
public final class KnownRow {
    private static final String HEADER = "header::";

    private final Expressions expressions;
    private final Redactor redactor;

    /** @param redactor masks what is a secret: a masked value is none to be known */
    public KnownRow(Expressions expressions, Redactor redactor) {
        this.expressions = expressions;
        this.redactor = redactor;
    }

    /**
     * The cells of the row, in the order of the table's columns. A column that is for nothing, and one that leads nowhere in
     * this exchange, are empty; of an exchange that ended in a fault, the first expected column names it.
     *
     * @throws Problem when a request or an answer is no SOAP message
     */
    public List<String> of(KnownValues known, Exchange exchange) {
        SoapMessage request = SoapMessage.of(exchange.request(), "request");
        Optional<XdmNode> sent = request.payloadDocument().map(expressions::wrap);
        Message came = exchange.response()
                .orElseThrow(() -> Problem.input("The exchange has no answer", null, "Take one that was answered."));
        SoapMessage answer = SoapMessage.of(came, "answer");
        Optional<SoapFault> fault = answer.fault();
        Optional<XdmNode> got = answer.payloadDocument().map(expressions::wrap);
        List<String> cells = new ArrayList<>();
        boolean named = false;
        for (String column : known.table().columns()) {
            Optional<Column> bound = known.columns().stream()
                    .filter(c -> c.name().equals(column))
                    .findFirst();
            boolean expected = bound.filter(c -> c.use() == Use.IS).isPresent();
            if (expected && fault.isPresent()) {
                cells.add(named ? "" : fault(fault.get()));
                named = true;
            } else {
                cells.add(bound.map(b -> cell(b, expected ? got : sent)).orElse(""));
            }
        }
        return List.copyOf(cells);
    }

    private static String fault(SoapFault fault) {
        String code = fault.code().substring(fault.code().indexOf(':') + 1);
        return "fault " + fault.detail().map(QName::getLocalPart).orElse(code);
    }

    private String cell(Column column, Optional<XdmNode> in) {
        if (column.path().isBlank() || column.path().startsWith(HEADER) || in.isEmpty()) {
            return "";
        }
        String value = expressions.text(column.path(), Scope.EMPTY.on(in.get()));
        return KnownValues.cell(redactor.text(value));
    }
}
