package dev.mockbell.expression;

import java.util.List;
import java.util.Map;
import java.util.Set;
import net.sf.saxon.expr.Expression;
import net.sf.saxon.expr.StaticContext;
import net.sf.saxon.functions.FunctionLibrary;
import net.sf.saxon.om.FunctionItem;
import net.sf.saxon.om.StructuredQName;
import net.sf.saxon.trans.SymbolicName;
import net.sf.saxon.trans.XPathException;

/**
 * The functions that expressions may use: a list of what is allowed, over everything that the library has. What reaches
 * files, addresses, the environment, other programs or the terminal is not on it, and neither is what finds functions by
 * computed names. Function items are handed out guarded.
 */
final class AllowedFunctions implements FunctionLibrary {
    private static final String FN = "http://www.w3.org/2005/xpath-functions";

    /** Whole namespaces: all that they have only computes. */
    private static final Set<String> NAMESPACES =
            Set.of(FN + "/math", FN + "/map", FN + "/array", "http://www.w3.org/2001/XMLSchema", Functions.NAMESPACE);

    /** Of the functions of XPath (XPath and XQuery Functions and Operators 3.1). */
    static final Set<String> NAMES = Set.of(
            ("abs adjust-date-to-timezone adjust-dateTime-to-timezone adjust-time-to-timezone analyze-string apply avg"
                            + " base-uri boolean ceiling codepoint-equal codepoints-to-string collation-key compare concat"
                            + " contains contains-token count current-date current-dateTime current-time data"
                            + " dateTime day-from-date day-from-dateTime days-from-duration deep-equal default-collation"
                            + " default-language distinct-values document-uri element-with-id empty encode-for-uri"
                            + " ends-with error escape-html-uri exactly-one exists false filter floor fold-left fold-right"
                            + " for-each for-each-pair format-date format-dateTime format-integer format-number"
                            + " format-time function-arity function-name generate-id has-children head"
                            + " hours-from-dateTime hours-from-duration hours-from-time id idref implicit-timezone"
                            + " in-scope-prefixes index-of innermost insert-before iri-to-uri json-to-xml lang last"
                            + " local-name local-name-from-QName lower-case matches max min minutes-from-dateTime"
                            + " minutes-from-duration minutes-from-time month-from-date month-from-dateTime"
                            + " months-from-duration name namespace-uri namespace-uri-for-prefix"
                            + " namespace-uri-from-QName nilled node-name normalize-space normalize-unicode not number"
                            + " one-or-more outermost parse-ietf-date parse-json parse-xml parse-xml-fragment path position"
                            + " prefix-from-QName QName random-number-generator remove replace resolve-QName resolve-uri"
                            + " reverse root round round-half-to-even seconds-from-dateTime seconds-from-duration"
                            + " seconds-from-time serialize sort starts-with string string-join string-length"
                            + " string-to-codepoints subsequence substring substring-after substring-before sum tail"
                            + " timezone-from-date timezone-from-dateTime timezone-from-time tokenize translate true"
                            + " unordered upper-case xml-to-json year-from-date year-from-dateTime years-from-duration"
                            + " zero-or-one")
                    .split(" "));

    private final FunctionLibrary all;
    private final ThreadLocal<Budget> budgets;

    AllowedFunctions(FunctionLibrary all, ThreadLocal<Budget> budgets) {
        this.all = all;
        this.budgets = budgets;
    }

    static boolean allows(StructuredQName name) {
        String namespace = name.getNamespaceUri().toString();
        return NAMESPACES.contains(namespace) || namespace.equals(FN) && NAMES.contains(name.getLocalPart());
    }

    @Override
    public boolean isAvailable(SymbolicName.F name, int languageLevel) {
        return allows(name.getComponentName()) && all.isAvailable(name, languageLevel);
    }

    @Override
    public Expression bind(
            SymbolicName.F name,
            Expression[] arguments,
            Map<StructuredQName, Integer> keywords,
            StaticContext context,
            List<String> reasons)
            throws XPathException {
        if (!allows(name.getComponentName())) {
            if (all.isAvailable(name, 31)) {
                throw new XPathException(
                        "expressions may not use the function "
                                + name.getComponentName().getDisplayName(),
                        "XPST0017");
            }
            return null;
        }
        return all.bind(name, arguments, keywords, context, reasons);
    }

    @Override
    public FunctionItem getFunctionItem(SymbolicName.F name, StaticContext context) throws XPathException {
        if (!allows(name.getComponentName())) {
            return null;
        }
        FunctionItem found = all.getFunctionItem(name, context);
        return found == null ? null : new GuardedFunction(found, budgets);
    }

    @Override
    public FunctionLibrary copy() {
        return new AllowedFunctions(all.copy(), budgets);
    }
}
