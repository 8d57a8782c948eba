package dev.mockbell.peers;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlElements;
import jakarta.xml.bind.annotation.XmlList;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlSchemaType;
import jakarta.xml.bind.annotation.XmlType;
import java.math.BigDecimal;
import java.util.Date;
import java.util.List;
import javax.xml.datatype.Duration;
import javax.xml.datatype.XMLGregorianCalendar;

/** A stay with most kinds of fields. */
@XmlRootElement(name = "Stay")
@XmlType(
        name = "StayType",
        propOrder = {"arrival", "departure", "length", "total", "board", "guests", "days", "contact", "voucher"})
@XmlAccessorType(XmlAccessType.FIELD)
public class Stay {
    @XmlElement(required = true)
    @XmlSchemaType(name = "date")
    public Date arrival;

    // of no simple type in particular to its contract, and a point in time to the service
    public XMLGregorianCalendar departure;

    public Duration length;
    public BigDecimal total;

    @XmlElement(required = true)
    public Board board;

    @XmlElement(name = "guest", required = true)
    public List<Guest> guests;

    @XmlList
    public List<Integer> days;

    @XmlElements({@XmlElement(name = "phone", type = String.class), @XmlElement(name = "hut", type = Integer.class)})
    public Object contact;

    public byte[] voucher;
}
