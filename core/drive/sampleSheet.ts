/** A sheet to try the bench with: five unequal ones, in hand and not yet in any unit. */
export const SAMPLE_SHEET = [
  'bay,size,serial,model,price',
  '1,12 TB,QH12-06241-E4TN,Quernholt Q12C,262.00',
  '2,12 TB,QH12-06241-E4UC,Quernholt Q12C,262.00',
  '3,6 TB,QH6-02077-K3WA,Quernholt Q6C,149.90',
  '4,6 TB,QH6-02077-K3WM,Quernholt Q6C,149.90',
  '5,4 TB,QH4-03102-P9RF,Quernholt Q4C,104.50',
].join('\n');
