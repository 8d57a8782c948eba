package dev.mockbell.mock;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Braces.Piece;
import dev.mockbell.expression.Escaping;
import dev.mockbell.soap.Envelope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.util.ArrayList;
import java.util.List;

/**
 * The envelope that an answer's content becomes, with its expressions in braces.
 *
 * @param headers blocks that go with it
 */
record ContentText(SoapVersion version, List<String> headers) {
    /** Stands for the reason of a fault until its own text takes its place; no text has it. */
    private static final String REASON = "\uE0B1\uE0B2";

    Braces message(AnswerContent.Message content) {
        return Braces.parseTemplate(Envelope.around(version, content.xml(), headers));
    }

    /** The reason is plain text, also within its expressions, so that it is put into the XML piece by piece. */
    Braces fault(AnswerContent.Fault content) {
        Braces around = Braces.parseTemplate(
                Envelope.around(version, SoapFault.xml(version, content.code(), REASON, content.xml()), headers));
        List<Piece> pieces = new ArrayList<>();
        for (Piece piece : around.pieces()) {
            int at = piece instanceof Piece.Literal literal ? literal.text().indexOf(REASON) : -1;
            if (at < 0) {
                pieces.add(piece);
                continue;
            }
            String text = ((Piece.Literal) piece).text();
            pieces.add(new Piece.Literal(text.substring(0, at)));
            for (Piece own : Braces.parse(content.reason()).pieces()) {
                pieces.add(
                        own instanceof Piece.Expression e
                                ? new Piece.Expression(e.xpath(), e.offset(), Escaping.CONTENT)
                                : new Piece.Literal(Escaping.CONTENT.of(((Piece.Literal) own).text())));
            }
            pieces.add(new Piece.Literal(text.substring(at + REASON.length())));
        }
        return new Braces(around.source(), pieces);
    }
}
