package dev.mockbell.mock;

import dev.mockbell.expression.Braces;
import dev.mockbell.expression.Expressions;
import dev.mockbell.expression.Scope;
import dev.mockbell.soap.SoapFault;
import dev.mockbell.soap.SoapVersion;
import java.util.function.UnaryOperator;

/**
 * The body of the envelope that an answer's content becomes.
 *
 * @param xml fills expressions within XML
 * @param text fills them within plain text
 */
record ContentText(SoapVersion version, UnaryOperator<String> xml, UnaryOperator<String> text)
        implements AnswerContent.Visitor<String> {
    /** Of content that holds no expression. */
    static ContentText asItStands(SoapVersion version) {
        return new ContentText(version, UnaryOperator.identity(), UnaryOperator.identity());
    }

    static ContentText filled(SoapVersion version, Expressions expressions, Scope scope) {
        return new ContentText(version, t -> expressions.fillXml(t, scope), t -> expressions.fill(t, scope));
    }

    @Override
    public String message(AnswerContent.Message content) {
        return xml.apply(content.xml());
    }

    @Override
    public String fault(AnswerContent.Fault content) {
        return SoapFault.xml(version, true, text.apply(content.reason()), xml.apply(content.xml()));
    }

    /** Tells whether content is the same for every request. */
    static final class Constant implements AnswerContent.Visitor<Boolean> {
        @Override
        public Boolean message(AnswerContent.Message content) {
            return isPlain(content.xml());
        }

        @Override
        public Boolean fault(AnswerContent.Fault content) {
            return isPlain(content.xml()) && isPlain(content.reason());
        }

        private static boolean isPlain(String text) {
            // a doubled brace stands for one, so it is filled too
            return !Braces.hasExpression(text) && !text.contains("}}") && !text.contains("{{");
        }
    }
}
